<script setup lang="ts">
/** Whose pull it is: a build by click, or by Alt and its number. */
import type { Schemas } from '@/api/client'
import { useAnswers } from '@/frame/answers'
import KeyCap from '@/frame/KeyCap.vue'

const props = defineProps<{ designs: Schemas['DesignView'][]; label: string }>()
const chosen = defineModel<string>({ required: true })
useAnswers((number) => {
  const design = props.designs[number - 1]
  if (design) chosen.value = design.build_id
  return !!design
})
</script>

<template>
  <div class="whose" role="group" :aria-label="label">
    <button
      v-for="(d, i) in designs"
      :key="d.build_id"
      type="button"
      class="way"
      :aria-pressed="d.build_id === chosen"
      @click="chosen = d.build_id"
    >
      <KeyCap :k="`Alt ${i + 1}`" /> {{ d.name }}
    </button>
  </div>
</template>

<style scoped>
.whose {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.whose [aria-pressed='true'] {
  border-color: var(--dye);
  background: var(--dye-wash);
  font-weight: 600;
}
</style>
