<script setup lang="ts">
/** A throttle or adapter to scale: cut along its axis, air from the left, and seen from its entry. */
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { useLit } from '@/ui/lit'
import { boreAt, drawnLength, sizeOf } from './bores'

const props = defineProps<{
  sheet: Schemas['BarrelSheet']
  barrel: Schemas['BarrelView']
  at: number
}>()
const lit = useLit()
const WIDTH = 600
const HEIGHT = 232
const WALL = 9 // mm as drawn: nobody measured it
const depths = computed(() => props.barrel.depths)
const length = computed(() => drawnLength(props.sheet, depths.value))
const size = (name: string) => sizeOf(props.sheet, name)
const widest = computed(() => Math.max(20, ...depths.value.map((d) => d.bore_mm)))
const atBlade = computed(() => boreAt(depths.value, size('plate_at') ?? 0))
const scale = computed(() =>
  Math.min(330 / length.value, 196 / (widest.value + 2 * WALL), 205 / (atBlade.value + 2 * WALL)),
)
const LEFT = 26
const axis = HEIGHT / 2
const x = (mm: number) => LEFT + mm * scale.value
const down = (mm: number) => axis + mm * scale.value
/** The bore's edge below or above the axis, with the entry's radius. */
function wall(sign: 1 | -1): string {
  const radius = Math.min(size('entry_radius') ?? 0, WALL)
  const first = (depths.value[0]?.bore_mm ?? 0) / 2
  const along = depths.value.map((d) => `L${x(Math.max(d.place_mm, radius))},${down((sign * d.bore_mm) / 2)}`)
  const end = boreAt(depths.value, length.value) / 2
  const outer = down(sign * (widest.value / 2 + WALL))
  const r = radius * scale.value
  const corner = `M${x(0)},${down(sign * (first + radius))}A${r},${r} 0 0 ${sign > 0 ? 1 : 0} ${x(radius)},${down(sign * first)}`
  return `${corner}${along.join('')}L${x(length.value)},${down(sign * end)}L${x(length.value)},${outer}L${x(0)},${outer}Z`
}
/** The blade at an angle from square across, as a line through the shaft's middle. */
function blade(degrees: number) {
  const half = (atBlade.value / 2 - 0.4) * scale.value
  const turn = (degrees * Math.PI) / 180
  const middle = x(size('plate_at') ?? 0)
  const [dx, dy] = [half * Math.sin(turn), half * Math.cos(turn)]
  return { x1: middle - dx, y1: axis - dy, x2: middle + dx, y2: axis + dy }
}
const bladed = computed(() => props.sheet.has_plate && size('plate_at') != null && depths.value.length > 0)
const opened = computed(() => blade(size('wide_open_angle') ?? 90))
const shut = computed(() => blade(size('closed_angle') ?? 7))
const thick = computed(() => Math.max(size('plate') ?? 0, 0.8) * scale.value)
const grooves = computed(() =>
  (
    [
      ['land_in', 0],
      ['land_out', length.value],
    ] as const
  ).flatMap(([name, place]) => {
    const land = size(name)
    if (land == null || !depths.value.length) return []
    const deep = size('groove_depth') ?? 2
    const from = boreAt(depths.value, place) / 2 + land
    return ([1, -1] as const).map((sign) => ({
      x: x(place ? place - deep : 0),
      y: down(sign > 0 ? from : -from - (size('groove_width') ?? 3)),
      width: deep * scale.value,
      height: (size('groove_width') ?? 3) * scale.value,
    }))
  }),
)
const face = computed(() => ({ x: WIDTH - 118, r: (atBlade.value / 2) * scale.value }))
const strip = computed(() => Math.max(size('shaft') ?? 0, size('plate') ?? 0) * scale.value)
const tilted = computed(
  () => face.value.r * Math.abs(Math.cos(((size('wide_open_angle') ?? 90) * Math.PI) / 180)),
)
const land = computed(() => size('land_out') ?? size('land_in'))
</script>

<template>
  <svg
    :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
    role="img"
    :aria-label="`Barrel ${barrel.number}, cut along its axis and from its entry, to scale`"
  >
    <template v-if="depths.length">
      <path class="wall" :d="wall(-1)" />
      <path class="wall" :d="wall(1)" />
      <rect v-for="(g, n) in grooves" :key="n" class="groove" v-bind="g" />
      <line class="axis" :x1="x(0) - 20" :x2="x(length) + 14" :y1="axis" :y2="axis" />
      <path class="air" :d="`M4,${axis - 14}h14l-5,-4m5,4l-5,4`" />
      <template v-if="bladed">
        <line class="shut" v-bind="shut" />
        <line class="blade" v-bind="opened" :stroke-width="thick" />
        <circle
          v-if="size('shaft') != null"
          class="shaft"
          :cx="x(size('plate_at') ?? 0)"
          :cy="axis"
          :r="((size('shaft') ?? 0) / 2) * scale"
        />
      </template>
      <g v-for="(d, n) in depths" :key="d.place_mm" class="gauge" :class="{ here: n === at }">
        <line :x1="x(d.place_mm)" :x2="x(d.place_mm)" :y1="down(-d.bore_mm / 2)" :y2="down(d.bore_mm / 2)" />
        <text :x="x(d.place_mm)" :y="HEIGHT - 3">{{ d.place_mm }}</text>
      </g>
      <circle class="wall" :cx="face.x" :cy="axis" :r="face.r + WALL * scale" />
      <circle
        v-if="land != null"
        class="ring"
        :cx="face.x"
        :cy="axis"
        :r="face.r + (land + (size('groove_width') ?? 3) / 2) * scale"
        :stroke-width="(size('groove_width') ?? 3) * scale"
      />
      <circle class="bore" :cx="face.x" :cy="axis" :r="face.r" />
      <template v-if="sheet.has_plate">
        <ellipse class="shadow" :cx="face.x" :cy="axis" :rx="face.r" :ry="tilted" />
        <rect class="shadow" :x="face.x - face.r" :y="axis - strip / 2" :width="2 * face.r" :height="strip" />
        <text
          v-if="sheet.open_percent != null"
          class="open"
          :class="{ lit: lit === 'open' }"
          :x="face.x"
          :y="axis - face.r / 2 + 8"
        >
          {{ sheet.open_percent }} %
        </text>
        <text v-if="sheet.open_percent != null" class="word" :x="face.x" :y="axis + face.r / 2 + 4">
          stands open
        </text>
      </template>
    </template>
    <text v-else class="word" :x="WIDTH / 2" :y="axis">no bore gauged yet</text>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  max-width: 640px;
}
.wall {
  fill: var(--faint);
  stroke: var(--ink);
  stroke-width: 1.5;
}
.bore {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 2.5;
}
.groove {
  fill: var(--sheet);
  stroke: var(--ink);
}
.ring {
  fill: none;
  stroke: var(--hair);
}
.axis {
  stroke: var(--quiet);
  stroke-dasharray: 12 3 2 3;
}
.air {
  fill: none;
  stroke: var(--quiet);
  stroke-width: 1.5;
}
.blade {
  stroke: var(--ink);
}
.shut {
  stroke: var(--quiet);
  stroke-width: 1.5;
  stroke-dasharray: 4 3;
}
.shaft {
  fill: var(--ink);
}
.shadow {
  fill: var(--ink);
}
.gauge line {
  stroke: var(--hair);
}
.gauge.here line {
  stroke: var(--dye);
  stroke-width: 2.5;
}
text {
  font: 500 13px var(--mono);
  fill: var(--quiet);
  text-anchor: middle;
}
.gauge.here text {
  fill: var(--dye);
  font-weight: 700;
}
.open {
  font: 600 22px var(--mono);
  fill: var(--ink);
}
text.lit {
  fill: var(--dye);
}
.word {
  font: 500 14px var(--narrow);
}
</style>
