<script setup lang="ts">
/** Velocity round an opening by clock position: how far from the middle the line runs is how fast the air does. */
import { scaleLinear } from 'd3-scale'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'

const props = defineProps<{
  curves: Schemas['SeriesCurve'][]
  places: number[]
  unit: string
  active: number | undefined
}>()
const SIZE = 420
const MIDDLE = SIZE / 2
const OUTER = 160

const values = computed(() => props.curves.flatMap((c) => c.points.map((p) => p.value)))
const r = computed(() => scaleLinear([0, Math.max(1, ...values.value) * 1.05], [0, OUTER]))
const at = (clock: number, radius: number) => {
  const angle = (clock / 12) * 2 * Math.PI
  return { x: MIDDLE + radius * Math.sin(angle), y: MIDDLE - radius * Math.cos(angle) }
}
const outline = (points: Schemas['PlacePoint'][]) => {
  const round = [...points].sort((a, b) => (a.place % 12) - (b.place % 12))
  const path = round
    .map((p) => at(p.place, r.value(p.value)))
    .map((p) => `${p.x.toFixed(1)},${p.y.toFixed(1)}`)
  return path.length > 2 ? `M${path.join('L')}Z` : ''
}
const mean = (points: Schemas['PlacePoint'][]) =>
  points.reduce((sum, p) => sum + p.value, 0) / Math.max(1, points.length)
const rings = computed(() => r.value.ticks(4).filter((t) => t > 0))
</script>

<template>
  <svg :viewBox="`0 0 ${SIZE} ${SIZE}`" role="img" aria-label="Velocity by clock position">
    <g class="grid">
      <circle v-for="t in rings" :key="t" :cx="MIDDLE" :cy="MIDDLE" :r="r(t)" />
      <text v-for="t in rings" :key="`t${t}`" :x="MIDDLE + 4" :y="MIDDLE - r(t) - 3">{{ t }}</text>
      <text :x="MIDDLE + 4" :y="MIDDLE + 16" class="unit">{{ unit }}</text>
      <g v-for="p in places" :key="`p${p}`">
        <line
          :x1="MIDDLE"
          :y1="MIDDLE"
          :x2="at(p, OUTER).x"
          :y2="at(p, OUTER).y"
          :class="{ active: p === active }"
        />
        <text :x="at(p, OUTER + 22).x" :y="at(p, OUTER + 22).y + 5" text-anchor="middle" class="hour">
          {{ p }}
        </text>
      </g>
    </g>
    <g v-for="(c, i) in curves" :key="c.label" :class="`s${i}`">
      <path :d="outline(c.points)" />
      <circle v-if="c.points.length > 2" :cx="MIDDLE" :cy="MIDDLE" :r="r(mean(c.points))" class="mean" />
      <circle
        v-for="p in c.points"
        :key="p.place"
        :cx="at(p.place, r(p.value)).x"
        :cy="at(p.place, r(p.value)).y"
        r="5"
      >
        <title>{{ c.label }}, {{ p.place }} h: {{ p.text }}</title>
      </circle>
      <text
        v-for="p in c.points"
        :key="`v${p.place}`"
        :x="at(p.place, r(p.value) - 20).x"
        :y="at(p.place, r(p.value) - 20).y + 4"
        text-anchor="middle"
        class="value"
      >
        {{ i === curves.length - 1 ? p.value.toFixed(0) : '' }}
      </text>
    </g>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  max-height: 460px;
}
text {
  font: 500 13px var(--mono);
  fill: var(--quiet);
}
.unit {
  font: 500 14px var(--narrow);
}
.hour {
  font: 600 16px var(--narrow);
  fill: var(--ink);
}
.value {
  fill: var(--ink);
}
.grid circle,
.grid line {
  fill: none;
  stroke: var(--hair);
}
.grid line.active {
  stroke: var(--dye);
  stroke-width: 8;
  opacity: 0.25;
}
.mean {
  fill: none !important;
  stroke-dasharray: 4 4;
}
.s0 path,
.s0 .mean {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.2;
}
.s0 circle {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 2;
}
.s1 path,
.s1 .mean {
  fill: none;
  stroke: var(--cut);
  stroke-width: 2.2;
}
.s1 circle {
  fill: var(--cut);
}
.s0 .mean,
.s1 .mean {
  stroke-width: 1.2;
}
</style>
