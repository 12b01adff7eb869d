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
const WIDTH = 560
const HEIGHT = 510
const MIDDLE = { x: WIDTH / 2, y: HEIGHT / 2 }
const OUTER = 180
const LINE = 18

const values = computed(() => props.curves.flatMap((c) => c.points.map((p) => p.value)))
const r = computed(() => scaleLinear([0, Math.max(1, ...values.value) * 1.05], [0, OUTER]))
const at = (clock: number, radius: number) => {
  const angle = (clock / 12) * 2 * Math.PI
  return { x: MIDDLE.x + radius * Math.sin(angle), y: MIDDLE.y - radius * Math.cos(angle) }
}
/** What each series reads at a clock position, outside the rim, the hour first. */
const hours = computed(() =>
  props.places.map((place) => {
    const figures = props.curves.map((c) => c.points.find((p) => p.place === place)?.value.toFixed(1) ?? '–')
    const end = at(place, OUTER + 16)
    const sideways = (end.x - MIDDLE.x) / OUTER
    const upright = (end.y - MIDDLE.y) / OUTER
    const anchor = Math.abs(sideways) < 0.3 ? 'middle' : sideways > 0 ? 'start' : 'end'
    const height = figures.length * LINE
    return {
      place,
      figures,
      x: end.x,
      y: end.y + 5 + ((upright - 1) / 2) * height + Math.max(0, upright) * 8,
      anchor,
    }
  }),
)
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
  <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" role="img" aria-label="Velocity by clock position">
    <g class="legend">
      <text
        v-for="(c, i) in curves"
        :key="c.label"
        x="6"
        :y="18 + i * 20"
        :class="['told', `series-${i % 4}`]"
      >
        {{ c.label }}{{ c.points.length > 2 ? `: average ${mean(c.points).toFixed(1)} ${unit}, dashed` : '' }}
      </text>
    </g>
    <g class="grid">
      <circle v-for="t in rings" :key="t" :cx="MIDDLE.x" :cy="MIDDLE.y" :r="r(t)" />
      <text v-for="t in rings" :key="`t${t}`" :x="MIDDLE.x + 4" :y="MIDDLE.y - r(t) - 3">{{ t }}</text>
      <text :x="MIDDLE.x + 4" :y="MIDDLE.y + 16" class="unit">{{ unit }}</text>
      <g v-for="p in places" :key="`p${p}`">
        <line
          :x1="MIDDLE.x"
          :y1="MIDDLE.y"
          :x2="at(p, OUTER).x"
          :y2="at(p, OUTER).y"
          :class="{ active: p === active }"
        />
      </g>
    </g>
    <text v-for="h in hours" :key="`h${h.place}`" :y="h.y" :text-anchor="h.anchor">
      <tspan :x="h.x" class="hour">{{ h.place }} o'clock</tspan>
      <tspan v-for="(f, i) in h.figures" :key="i" :x="h.x" :dy="LINE" :class="['told', `series-${i % 4}`]">
        {{ f }}
      </tspan>
    </text>
    <g v-for="(c, i) in curves" :key="c.label" :class="['series', `series-${i % 4}`]">
      <path :d="outline(c.points)" />
      <circle v-if="c.points.length > 2" :cx="MIDDLE.x" :cy="MIDDLE.y" :r="r(mean(c.points))" class="mean" />
      <circle
        v-for="p in c.points"
        :key="p.place"
        :cx="at(p.place, r(p.value)).x"
        :cy="at(p.place, r(p.value)).y"
        r="5"
      >
        <title>{{ c.label }}, {{ p.place }} o'clock: {{ p.text }}</title>
      </circle>
    </g>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  max-height: 540px;
}
text {
  font: 500 13px var(--mono);
  fill: var(--quiet);
}
.unit {
  font: 500 14px var(--narrow);
}
.legend text {
  font: 600 14px var(--narrow);
}
.hour {
  font: 600 16px var(--narrow);
  fill: var(--ink);
}
.told {
  fill: var(--series);
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
.series path,
.series .mean {
  fill: none;
  stroke: var(--series);
  stroke-width: 2.2;
}
.series .mean {
  stroke-width: 1.2;
  stroke-dasharray: 4 4;
}
.series circle:not(.mean) {
  fill: var(--series);
}
.series-0 circle:not(.mean) {
  fill: var(--sheet);
  stroke: var(--series);
  stroke-width: 2;
}
</style>
