<script setup lang="ts">
/** Flow over an opening or a valve lift, a line for each series; under it the second against the first, with its ±. */
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'

const props = defineProps<{
  curves: Schemas['SeriesCurve'][]
  gains: Schemas['PlaceGain'][]
  places: number[]
  axis: string
  axisUnit: string
  unit: string
  active: number | undefined
}>()
const WIDTH = 580
const LEFT = 46
const RIGHT = 110
const TOP = 22
const BOTTOM = 322
const STRIP = 374
const STRIP_END = 448
const LABEL_ROOM = 50

const values = computed(() => props.curves.flatMap((c) => c.points.map((p) => p.value)))
const x = computed(() => {
  const most = Math.max(...props.places)
  return scaleLinear([0, most], [LEFT, WIDTH - RIGHT])
})
const y = computed(() => scaleLinear([0, Math.max(1e-9, ...values.value) * 1.08], [BOTTOM, TOP]).nice(4))
/** Nothing read yet has no scale. */
const ticks = computed(() => (values.value.length ? y.value.ticks(4) : []))
type Point = Schemas['PlacePoint']
const drawn = (points: Point[]) =>
  line<Point>(
    (p) => x.value(p.place),
    (p) => y.value(p.value),
  )(points) ?? ''
const ends = computed(() => {
  const last = props.curves.map((c) => ({ label: c.label, at: c.points.at(-1) })).filter((e) => e.at)
  const sorted = [...last].sort((a, b) => y.value(a.at?.value ?? 0) - y.value(b.at?.value ?? 0))
  let before = -Infinity
  return sorted.map((e) => {
    const at = Math.max(y.value(e.at?.value ?? 0), before + 18)
    before = at
    return { ...e, y: at, number: props.curves.findIndex((c) => c.label === e.label) }
  })
})
const most = computed(() => Math.max(2, ...props.gains.map((g) => Math.abs(g.percent) + g.half_width)))
const strip = computed(() => scaleLinear([-most.value, most.value], [STRIP_END, STRIP]))
/** Places that lie close together have their figures one below the other. */
const labels = computed(() => {
  let low = true
  return props.gains.map((g, i) => {
    const before = props.gains[i - 1]
    low = before !== undefined && !low && x.value(g.place) - x.value(before.place) < LABEL_ROOM
    return { place: g.place, text: g.text.replace(' %', ''), y: STRIP_END + (low ? 38 : 21) }
  })
})
</script>

<template>
  <svg :viewBox="`0 0 ${WIDTH} ${gains.length ? 490 : 366}`" role="img" :aria-label="`Flow over ${axis}`">
    <g class="grid">
      <template v-for="t in ticks" :key="t">
        <line :x1="LEFT" :x2="WIDTH - RIGHT" :y1="y(t)" :y2="y(t)" />
        <text :x="LEFT - 8" :y="y(t) + 4" text-anchor="end">{{ t }}</text>
      </template>
      <text :x="LEFT" :y="TOP - 9" class="unit">{{ unit }}</text>
      <template v-for="p in places" :key="`x${p}`">
        <line :x1="x(p)" :x2="x(p)" :y1="TOP" :y2="BOTTOM" :class="{ active: p === active }" />
        <text :x="x(p)" :y="BOTTOM + 17" text-anchor="middle">{{ p }}</text>
      </template>
      <text :x="WIDTH - RIGHT + 22" :y="BOTTOM + 17" class="unit">{{ axis }}, {{ axisUnit }}</text>
    </g>
    <g v-for="(c, i) in curves" :key="c.label" :class="['series', `series-${i % 4}`]">
      <path :d="drawn(c.points)" />
      <circle v-for="p in c.points" :key="p.place" :cx="x(p.place)" :cy="y(p.value)" r="5">
        <title>{{ c.label }}: {{ p.text }}</title>
      </circle>
    </g>
    <text
      v-for="e in ends"
      :key="e.label"
      :x="x(e.at?.place ?? 0) + 11"
      :y="e.y + 5"
      :class="['end', `series-${e.number % 4}`]"
    >
      {{ e.label }}
    </text>
    <g v-if="gains.length" class="strip">
      <text :x="LEFT" :y="STRIP - 6" class="unit">% vs first series</text>
      <line :x1="LEFT" :x2="WIDTH - RIGHT" :y1="strip(0)" :y2="strip(0)" class="zero" />
      <g v-for="g in gains" :key="g.place">
        <line
          :x1="x(g.place)"
          :x2="x(g.place)"
          :y1="strip(g.percent - g.half_width)"
          :y2="strip(g.percent + g.half_width)"
          class="room"
        />
        <circle :cx="x(g.place)" :cy="strip(g.percent)" r="5" :class="{ real: g.real }" />
      </g>
      <text
        v-for="l in labels"
        :key="`l${l.place}`"
        :x="x(l.place)"
        :y="l.y"
        text-anchor="middle"
        class="gain"
      >
        {{ l.text }}
      </text>
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
.unit,
.end {
  font: 500 14px var(--narrow);
}
.end {
  font-weight: 600;
}
.grid line {
  stroke: var(--hair);
  stroke-width: 0.8;
}
.grid line.active {
  stroke: var(--dye);
  stroke-width: 8;
  opacity: 0.18;
}
.series path {
  fill: none;
  stroke: var(--series);
  stroke-width: 2.4;
}
.series circle,
.end {
  fill: var(--series);
}
.series-0 circle {
  fill: var(--sheet);
  stroke: var(--series);
  stroke-width: 2.2;
}
.series-2 path {
  stroke-dasharray: 7 4;
}
.series-3 path {
  stroke-dasharray: 2 4;
}
.zero {
  stroke: var(--ink);
}
.room {
  stroke: var(--cut);
  stroke-width: 2;
}
.strip circle {
  fill: var(--sheet);
  stroke: var(--cut);
  stroke-width: 2.2;
}
.strip circle.real {
  fill: var(--cut);
}
.gain {
  fill: var(--ink);
}
</style>
