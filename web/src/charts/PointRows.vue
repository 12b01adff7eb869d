<script setup lang="ts">
/** Figures of configurations, or of a copy and its original, one row for each point in the order in which it is flowed. */
import { scaleLinear } from 'd3-scale'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'

const props = defineProps<{ points: Schemas['PointView'][]; active: number | undefined; unit: string }>()
const WIDTH = 580
const ROW = 52
const LEFT = 190
const RIGHT = 70
const values = computed(() => props.points.flatMap((p) => (p.value ? [p.value.value] : [])))
const x = computed(() => {
  const low = Math.min(...values.value)
  const high = Math.max(...values.value)
  const room = Math.max(high - low, high * 0.02) * 0.35
  return scaleLinear([low - room, high + room], [LEFT, WIDTH - RIGHT]).nice(4)
})
const first = computed(() => props.points.find((p) => p.series === 0 && p.value)?.value?.value)
</script>

<template>
  <svg :viewBox="`0 0 ${WIDTH} ${points.length * ROW + 40}`" role="img" aria-label="Figures of each point">
    <g v-if="values.length" class="grid">
      <template v-for="t in x.ticks(4)" :key="t">
        <line :x1="x(t)" :x2="x(t)" y1="6" :y2="points.length * ROW" />
        <text :x="x(t)" :y="points.length * ROW + 18" text-anchor="middle">{{ t }}</text>
      </template>
      <text :x="WIDTH - RIGHT + 24" :y="points.length * ROW + 18">{{ unit }}</text>
    </g>
    <g v-for="(p, i) in points" :key="p.index" :transform="`translate(0 ${i * ROW})`">
      <rect v-if="p.index === active" x="0" y="4" :width="WIDTH" :height="ROW - 8" class="active" />
      <text x="12" :y="ROW / 2 + 6" class="name">{{ i + 1 }} {{ p.words }}</text>
      <template v-if="p.value">
        <line v-if="first" :x1="x(first)" :x2="x(p.value.value)" :y1="ROW / 2" :y2="ROW / 2" class="gap" />
        <circle :cx="x(p.value.value)" :cy="ROW / 2" r="7" :class="p.series === 0 ? 'open' : 'filled'" />
        <text :x="x(p.value.value) + 12" :y="ROW / 2 + 5" class="value">{{ p.value.text }}</text>
        <text :x="WIDTH - 4" :y="ROW / 2 + 5" text-anchor="end" class="value">{{ p.against }}</text>
      </template>
      <text v-else :x="LEFT" :y="ROW / 2 + 5">not read</text>
    </g>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
}
text {
  font: 500 13px var(--mono);
  fill: var(--quiet);
}
.name {
  font: 600 16px var(--sans);
  fill: var(--ink);
}
.value {
  font-size: 15px;
  fill: var(--ink);
}
.active {
  fill: var(--dye-wash);
}
.grid line {
  stroke: var(--hair);
  stroke-width: 0.8;
}
.gap {
  stroke: var(--cut);
  stroke-width: 2.4;
}
.open {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 2.2;
}
.filled {
  fill: var(--cut);
}
</style>
