<script setup lang="ts">
/** A part of the shelf in one line: what was measured beside what is advertised, what it flows, costs and weighs. */
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import type { Schemas } from '@/api/client'

const props = defineProps<{ card: Schemas['ShelfCard']; currency: string }>()
/** How many lie here, and what is left over where that is another number. */
const stock = computed(() => {
  const { here, left_over: left } = props.card
  return left < 0 ? `${-left} short` : left === here ? String(here || '–') : `${here}, ${left} left`
})
</script>

<template>
  <RouterLink :to="`/parts/${card.id}`" class="part-row">
    <img v-if="card.photo_digest" :src="`/api/pictures/${card.photo_digest}`" alt="" />
    <span v-else />
    <span class="name"
      ><strong>{{ card.name }}</strong>
      <span class="quiet narrow"
        >{{ [card.maker, card.number, card.material].filter(Boolean).join(' · ') }}
        {{ card.claims ? ` · ${card.claims === 1 ? 'a claim' : `${card.claims} claims`}` : '' }}</span
      ></span
    >
    <span class="n mono">{{
      card.bore.measured ? `${card.bore.measured.text} ${card.bore.measured.unit}` : '–'
    }}</span>
    <span class="n mono quiet"
      >{{ card.bore.advertised ? `${card.bore.advertised.text} ${card.bore.advertised.unit}` : '–' }}
      <small v-if="card.bore.difference" class="doubt">{{ card.bore.difference }}</small></span
    >
    <span class="n mono" :class="{ guess: card.flow && card.flow_grade !== 'measured' }">
      {{ card.flow ? `${card.flow.text} ${card.flow.unit}` : 'not flowed' }}
    </span>
    <span class="n mono">{{ card.price == null ? '–' : `${card.price.toFixed(0)} ${currency}` }}</span>
    <span class="n mono">{{ card.lead_days == null ? '–' : `${card.lead_days} d` }}</span>
    <span class="n mono" :class="{ doubt: card.left_over < 0 }">{{ stock }}</span>
    <span class="n mono">{{ card.mass_kg == null ? '–' : `${card.mass_kg.toFixed(1)} kg` }}</span>
  </RouterLink>
</template>

<style scoped>
.part-row {
  color: inherit;
  text-decoration: none;
  padding: 4px 0;
  border-bottom: 1px solid var(--faint);
  min-height: 40px;
}
.part-row:hover,
.part-row:focus-visible {
  background: var(--sheet);
}
img {
  width: 44px;
  height: 34px;
  object-fit: cover;
}
.name {
  display: grid;
  line-height: 1.2;
}
.n {
  text-align: right;
  white-space: nowrap;
}
.guess {
  font-style: italic;
  color: var(--quiet);
}
small {
  font-size: 13px;
}
</style>
