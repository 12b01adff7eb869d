<script setup lang="ts">
/** In what a build differs from the first, in a line; one that differs in more is another path altogether. */
import { computed } from 'vue'
import { api, told, type Schemas } from '@/api/client'
import { useSheet } from '@/api/sheet'

type Build = Schemas['BuildView']
const props = defineProps<{ first: Build | undefined; build: Build }>()
const MOST_LINES = 4
const { sheet } = useSheet(ask, [() => props.build])
const difference = computed(() => sheet.value?.difference)

async function ask(): Promise<{ difference?: Schemas['BuildDifference'] }> {
  const [before_id, after_id] = [props.first?.id, props.build.id]
  if (!before_id || before_id === after_id) return {}
  const path = { before_id, after_id }
  return {
    difference: await told(api.GET('/api/builds/{before_id}/difference/{after_id}', { params: { path } })),
  }
}
</script>

<template>
  <p v-if="difference?.lines.length" class="difference narrow">
    Changes from {{ difference.before }}: {{ difference.lines.slice(0, MOST_LINES).join(' · ')
    }}{{ difference.lines.length > MOST_LINES ? ` · ${difference.lines.length - MOST_LINES} more` : '' }}
  </p>
</template>

<style scoped>
.difference {
  color: var(--cut);
  padding-top: 2px;
}
</style>
