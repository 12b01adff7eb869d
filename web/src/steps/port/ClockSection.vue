<script setup lang="ts">
/** One section seen from the entry: the bore, its wall as gauged, and what is to come off. */
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { closed, onClock, radiusAt, wallAt, type Point } from './section'

const props = defineProps<{ cell: Schemas['PortCell']; compact?: boolean }>()
const SIZE = 328
const HEIGHT = 226
const MIDDLE = { x: 112, y: HEIGHT / 2 }
const OUTER = 106
/** So many points make a circle round. */
const AROUND = Array.from({ length: 96 }, (_, n) => n / 8)

const walls = computed(() => props.cell.walls.map((w) => ({ hour: w.hour, mm: toMm(w.mm.value, w.mm.unit) })))
const toMm = (value: number, unit: string) => (unit === 'in' ? value * 25.4 : value)
const radii = computed(() => AROUND.map((h) => radiusAt(props.cell, h)))
const radius = computed(() => Math.max(...radii.value))
const out = (hour: number) => radii.value[Math.round(hour * 8) % AROUND.length] ?? radius.value
const thickest = computed(() => Math.max(4, ...walls.value.map((w) => w.mm)))
const scale = computed(() => OUTER / (radius.value + thickest.value))
const at = (hour: number, mm: number): Point => {
  const p = onClock(hour, mm * scale.value)
  return { x: MIDDLE.x + p.x, y: MIDDLE.y + p.y }
}
const ring = computed(() => closed(AROUND.map((h) => at(h, out(h)))))
const outside = computed(() =>
  walls.value.length ? closed(AROUND.map((h) => at(h, out(h) + (wallAt(walls.value, h) ?? 0)))) : '',
)
/** Straight between the half hours that are told. */
function depthAt(depths: readonly number[], hour: number): number {
  const n = Math.floor(hour * 2)
  const share = hour * 2 - n
  return (1 - share) * (depths[n % depths.length] ?? 0) + share * (depths[(n + 1) % depths.length] ?? 0)
}
/** What comes off, between the bore as it is and as it is to be. */
const off = computed(() => {
  const depths = props.cell.cut?.depths_mm
  if (!depths) return ''
  const inner = [...AROUND, 12].map((h) => at(h, out(h)))
  const outer = [...AROUND, 12].map((h) => at(h, out(h) + depthAt(depths, h)))
  const path = (points: Point[]) => points.map((p) => `${p.x.toFixed(2)},${p.y.toFixed(2)}`).join('L')
  return `M${path(inner)}L${path(outer.reverse())}Z`
})
/** Walls are named outside, at the right, each beside its hour as far as there is room. */
const named = computed(() => {
  const rows = props.cell.walls
    .map((w) => ({ ...w, from: at(w.hour, out(w.hour) + (wallAt(walls.value, w.hour) ?? 0) / 2) }))
    .sort((a, b) => a.from.y - b.from.y || b.from.x - a.from.x)
  const step = Math.min(44, (HEIGHT - 20) / Math.max(1, rows.length))
  const top = (HEIGHT - step * (rows.length - 1)) / 2
  return rows.map((w, n) => ({ ...w, y: top + n * step }))
})
</script>

<template>
  <svg
    :viewBox="`0 0 ${SIZE} ${HEIGHT}`"
    role="img"
    :class="{ compact }"
    aria-label="Section, seen from the entry"
  >
    <path v-if="outside" class="wall" :d="`${outside} ${ring}`" fill-rule="evenodd" />
    <path class="bore" :d="ring" />
    <path v-if="off" class="off" :d="off" fill-rule="evenodd" />
    <g class="hours">
      <text v-for="h in [12, 3, 6, 9]" :key="h" :x="at(h, out(h) * 0.84).x" :y="at(h, out(h) * 0.84).y + 5">
        {{ h }}
      </text>
    </g>
    <g class="area">
      <text :x="MIDDLE.x" :y="MIDDLE.y - 16">now</text>
      <text class="now" :x="MIDDLE.x" :y="MIDDLE.y + 7">{{ cell.now_mm2?.toFixed(0) ?? '–' }}</text>
      <text :x="MIDDLE.x" :y="MIDDLE.y + 27">of {{ cell.wanted_mm2?.toFixed(0) ?? '–' }} mm²</text>
    </g>
    <g v-for="w in named" :key="w.id" class="named" :class="{ doubt: w.reckoned || w.marks.length }">
      <path v-if="w.from.x > MIDDLE.x - 8" :d="`M${w.from.x},${w.from.y}L230,${w.y - 5}`" />
      <text :x="234" :y="w.y">
        <tspan class="mm">{{ w.mm.text }}</tspan>
        {{ w.mm.unit }} at {{ w.hour }}
      </text>
      <text v-if="w.reckoned" :x="234" :y="w.y + 15" class="small">gauge again</text>
      <text v-else-if="w.holds === 'water'" :x="234" :y="w.y + 15" class="small">against water</text>
    </g>
    <text v-if="!named.length" :x="234" :y="MIDDLE.y" class="small">no wall gauged</text>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  max-width: 340px;
}
svg.compact {
  max-width: 220px;
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
.off {
  fill: var(--cut);
}
text {
  font: 500 14px var(--narrow);
  fill: var(--quiet);
}
.hours text,
.area text {
  font: 500 14px var(--mono);
  text-anchor: middle;
}
.area .now {
  font: 600 21px var(--mono);
  fill: var(--ink);
}
.named path {
  fill: none;
  stroke: var(--hair);
}
.named .mm {
  font: 600 16px var(--mono);
  fill: var(--ink);
}
.named.doubt .mm,
.named.doubt .small {
  fill: var(--doubt);
}
.small {
  font-size: 13px;
}
</style>
