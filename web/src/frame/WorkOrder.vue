<script setup lang="ts">
/** Work that has an order: what is lacking on the list, in which order the rest goes, and what can be put on it. */
import { computed } from 'vue'
import type { Schemas } from '@/api/client'

const props = defineProps<{ sheet: Schemas['TaskSheet'] }>()
const emit = defineEmits<{ add: [work: string] }>()
/** What is not on the list, what it asks for first. */
const toAdd = computed(() => {
  const there = new Set(props.sheet.steps.map((s) => s.work))
  const first = props.sheet.lacking.map((l) => l.work)
  const rest = props.sheet.works.filter((w) => !first.includes(w))
  return [...first, ...rest].filter((w) => !there.has(w))
})
const lacking = computed(() => props.sheet.lacking.map((l) => `${l.work} (for: ${l.because})`).join('; '))
</script>

<template>
  <div class="order">
    <p v-if="lacking" class="doubt" role="status">Not on the list: {{ lacking }}.</p>
    <p v-if="sheet.in_order.length > 1" class="quiet">In this order: {{ sheet.in_order.join(' → ') }}.</p>
    <div class="ways" role="group" aria-label="Work with an order">
      <button v-for="w in toAdd" :key="w" type="button" class="way" @click="emit('add', w)">+ {{ w }}</button>
    </div>
  </div>
</template>

<style scoped>
.order {
  display: grid;
  gap: 8px;
}
</style>
