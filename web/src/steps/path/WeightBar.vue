<script setup lang="ts">
/** What counts in a choice, and by how much. */
import Button from 'primevue/button'
import KeyCap from '@/frame/KeyCap.vue'
import type { Criterion, Weights } from './criteria'

defineProps<{ criteria: Criterion[]; weights: Weights; chosen: string; moved: boolean }>()
const emit = defineEmits<{ weigh: [name: string, by: number]; keep: [] }>()
</script>

<template>
  <div class="weights" role="group" aria-label="What counts">
    <span class="narrow quiet">priorities</span>
    <div v-for="(c, i) in criteria" :key="c.name" class="weight" :class="{ chosen: c.name === chosen }">
      <span class="narrow" :title="`${c.unit}, ${c.more_is_better ? 'more' : 'less'} is better`"
        ><i :class="`swatch criterion-${c.name}`" />{{ c.label }}</span
      >
      <span class="line">
        <button type="button" :aria-label="`less weight on ${c.label}`" @click="emit('weigh', c.name, -1)">
          −
        </button>
        <output class="mono">{{ weights[c.name] ?? 0 }}</output>
        <button type="button" :aria-label="`raise priority of ${c.label}`" @click="emit('weigh', c.name, 1)">
          +
        </button>
        <KeyCap :k="`${i + 1}`" />
      </span>
    </div>
    <span class="narrow quiet"><KeyCap k="←" /> <KeyCap k="→" /> less, more</span>
    <Button v-if="moved" size="small" @click="emit('keep')">Keep <KeyCap k="W" /></Button>
  </div>
</template>

<style scoped>
.weights {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 4px 18px;
  padding: 6px 0;
  border-block: 1px solid var(--hair);
  margin-top: 6px;
}
.weight {
  display: grid;
}
.weight.chosen {
  box-shadow: 0 3px 0 var(--dye);
}
.weight .line {
  display: flex;
  align-items: center;
  gap: 6px;
}
.weight button {
  width: 26px;
  height: 26px;
  border: 1px solid var(--hair);
  background: var(--sheet);
  cursor: pointer;
  line-height: 1;
}
.weight output {
  min-width: 12px;
  text-align: center;
}
.swatch {
  display: inline-block;
  width: 10px;
  height: 10px;
  margin-right: 5px;
  background: var(--criterion);
  opacity: var(--criterion-opacity, 1);
}
</style>
