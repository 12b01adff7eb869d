<script setup lang="ts">
/** The bore along its depth: as it was, as it is, what it should have; where the blade seals no metal comes off. */
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { useWidth } from '@/ui/useWidth'
import { boreRange, drawnLength } from './bores'

const props = defineProps<{ sheet: Schemas['BarrelSheet']; barrel: Schemas['BarrelView']; at: number }>()
const box = ref<HTMLElement>()
const width = useWidth(box, 300, 200)
const HEIGHT = 168
const LEFT = 52
const BOTTOM = 24
const depths = computed(() => props.barrel.depths)
const length = computed(() => drawnLength(props.sheet, depths.value))
const range = computed(() => boreRange(depths.value))
const x = computed(() => scaleLinear([0, length.value], [LEFT + 14, width.value - 30]))
const y = computed(() => scaleLinear([range.value.low, range.value.high], [HEIGHT - BOTTOM, 12]))
const drawn = (of: (d: Schemas['DepthView']) => number) =>
  line<Schemas['DepthView']>()
    .x((d) => x.value(d.place_mm))
    .y((d) => y.value(of(d)))(depths.value) ?? ''
const changed = computed(() => depths.value.some((d) => Math.abs(d.before.value - d.bore.value) > 0.005))
const ticks = computed(() => {
  const { low, high, step } = range.value
  return Array.from({ length: Math.round((high - low) / step) + 1 }, (_, n) => low + n * step)
})
const seat = computed(() => {
  const [from, to] = props.barrel.seat_mm
  if (from == null || to == null) return undefined
  const [a, b] = [Math.max(0, from), Math.min(length.value, to)]
  return b > a ? { x: x.value(a), width: x.value(b) - x.value(a) } : undefined
})
</script>

<template>
  <div ref="box" class="chart">
    <svg
      :viewBox="`0 0 ${width} ${HEIGHT}`"
      :width="width"
      :height="HEIGHT"
      role="img"
      aria-label="Mean bore in mm over the depth in mm"
    >
      <rect v-if="seat" class="seat" :x="seat.x" y="12" :width="seat.width" :height="HEIGHT - BOTTOM - 12" />
      <g v-for="t in ticks" :key="t">
        <line class="grid" :x1="LEFT" :x2="width - 8" :y1="y(t)" :y2="y(t)" />
        <text :x="LEFT - 6" :y="y(t) + 4" text-anchor="end">
          {{ t.toFixed(range.step < 1 ? 1 : 0) }}
        </text>
      </g>
      <text v-if="seat" class="word" :x="seat.x + seat.width / 2" y="25">blade seals</text>
      <path v-if="changed" class="before" :d="drawn((d) => d.before.value)" />
      <path class="now" :d="drawn((d) => d.bore.value)" />
      <g v-for="(d, n) in depths" :key="d.place_mm">
        <line
          v-if="d.wanted"
          class="wanted"
          :x1="x(d.place_mm) - 16"
          :x2="x(d.place_mm) + 16"
          :y1="y(d.wanted.value)"
          :y2="y(d.wanted.value)"
        />
        <circle
          v-for="g in d.gauges"
          :key="g.id"
          class="single"
          :cx="x(d.place_mm)"
          :cy="y(g.mm.value)"
          r="2.5"
        />
        <circle class="mean" :class="{ here: n === at }" :cx="x(d.place_mm)" :cy="y(d.bore.value)" r="5" />
        <text :x="x(d.place_mm)" :y="HEIGHT - 6" text-anchor="middle">{{ d.place_mm }}</text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.chart {
  min-width: 0;
}
svg {
  display: block;
}
.grid {
  stroke: var(--faint);
}
.seat {
  fill: var(--doubt-wash);
}
.now {
  fill: none;
  stroke: var(--dye);
  stroke-width: 2;
}
.before {
  fill: none;
  stroke: var(--quiet);
  stroke-dasharray: 3 3;
}
.wanted {
  stroke: var(--cut);
  stroke-width: 3;
}
.mean {
  fill: var(--sheet);
  stroke: var(--dye);
  stroke-width: 2.5;
}
.mean.here {
  fill: var(--dye);
}
.single {
  fill: var(--quiet);
}
text {
  font: 500 12.5px var(--mono);
  fill: var(--quiet);
}
.word {
  font: 500 13px var(--narrow);
  text-anchor: middle;
  fill: var(--doubt);
}
</style>
