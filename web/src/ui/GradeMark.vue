<script setup lang="ts">
/** How well a statement stands, as a mark: filled is measured, half computed, a quarter estimated, open a rule of thumb. */
import { GRADES } from './words'

defineProps<{ grade: string; says?: string }>()
</script>

<template>
  <span
    class="grade"
    :class="grade"
    :title="says ?? GRADES[grade]"
    role="img"
    :aria-label="says ?? GRADES[grade] ?? grade"
  />
</template>

<style scoped>
.grade {
  display: inline-block;
  width: 9px;
  height: 9px;
  border: 1.5px solid currentColor;
  border-radius: 50%;
}
.measured {
  background: currentColor;
}
.computed {
  background: linear-gradient(90deg, currentColor 50%, transparent 50%);
}
.estimated {
  background: conic-gradient(currentColor 25%, transparent 25%);
}
</style>
