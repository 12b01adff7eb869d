<script setup lang="ts">
/** What counts in a choice, and by how much. */
import Button from 'primevue/button'
import KeyCap from '@/frame/KeyCap.vue'
import { CRITERIA, type Weights } from './criteria'

defineProps<{ weights: Weights; moved: boolean }>()
const emit = defineEmits<{ weigh: [name: string, by: number]; keep: [] }>()
</script>

<template>
  <div class="weights" role="group" aria-label="What counts">
    <span class="narrow quiet">priorities</span>
    <div v-for="(c, i) in CRITERIA" :key="c.name" class="weight">
      <span class="narrow"><i :class="`swatch criterion-${i}`" />{{ c.label }}</span>
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
