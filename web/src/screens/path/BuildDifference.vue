<script setup lang="ts">
/** In what a build differs from the first, in a line; one that differs in more is another path altogether. */
import { shallowRef, watch } from 'vue'
import { fill, get, whileReachable, type Schemas } from '@/api/client'

type Difference = Schemas['BuildDifference']
type Build = Schemas['BuildView']
const props = defineProps<{ first: Build | undefined; build: Build }>()
const MOST_LINES = 4
const difference = shallowRef<Difference>()

watch(
  () => props.build,
  ({ id }) => {
    const told = props.first && props.first.id !== id
    const asked = told ? get<Difference>(`/api/builds/${props.first?.id}/difference/${id}`) : undefined
    void whileReachable(() => fill(difference, Promise.resolve(asked)))
  },
  { immediate: true },
)
</script>

<template>
  <p v-if="difference?.lines.length" class="difference narrow">
    Against {{ difference.before }}: {{ difference.lines.slice(0, MOST_LINES).join(' · ')
    }}{{ difference.lines.length > MOST_LINES ? ` · and ${difference.lines.length - MOST_LINES} more` : '' }}
  </p>
</template>

<style scoped>
.difference {
  color: var(--cut);
  padding-top: 2px;
}
</style>
