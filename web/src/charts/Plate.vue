<script setup lang="ts">
/**
 * Power and torque of a design against stock on one plate; under it, on the same speeds, the difference with the band
 * in which repeats of one set-up differ. Stock is a thin full line, the design a heavy copper one; both carry their
 * names.
 */
import { scaleLinear } from 'd3-scale'
import { area, line } from 'd3-shape'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { useLit } from '@/ui/lit'
import { useWidth } from '@/ui/useWidth'

type Trace = Schemas['TraceView']
const props = defineProps<{
  torque: Trace
  power: Trace
  stock: string
  other: string
  band: Schemas['BandView']
  bandWords: string
  strip: 'power' | 'torque'
  height: number
}>()
const lit = useLit()
const box = ref<HTMLElement>()
const width = useWidth(box, 800, 360)

const LEFT = 52
const RIGHT = 56
const plateTop = 26
const plateBottom = computed(() => Math.round(props.height * 0.66))
const stripTop = computed(() => plateBottom.value + 34)
const stripBottom = computed(() => props.height - 30)

const speeds = computed(() => props.power.engine_speed_rpm)
const x = computed(() =>
  scaleLinear([speeds.value[0] ?? 0, speeds.value.at(-1) ?? 1], [LEFT, width.value - RIGHT]),
)
const ends = (values: number[]): [number, number] => [Math.min(...values), Math.max(...values)]
/** Torque in the upper, power in the lower part, so that the curves cross little; both from a round number. */
const torqueY = computed(() => {
  const [low, high] = ends([...props.torque.stock, ...props.torque.other])
  return scaleLinear(
    [low - (high - low) * 1.1, high + (high - low) * 0.08],
    [plateBottom.value, plateTop],
  ).nice(6)
})
const powerY = computed(() => {
  const [low, high] = ends([...props.power.stock, ...props.power.other])
  return scaleLinear(
    [low - (high - low) * 0.05, high + (high - low) * 0.45],
    [plateBottom.value, plateTop],
  ).nice(6)
})
const chosen = computed(() => (props.strip === 'power' ? props.power : props.torque))
const stripY = computed(() => {
  const most = Math.max(...chosen.value.difference.map(Math.abs), ...chosen.value.noise) * 1.12 || 1
  const [low, high] = ends([...chosen.value.difference, 0])
  return scaleLinear(
    [Math.min(low * 1.15, -most * 0.25), Math.max(high * 1.15, most * 0.25)],
    [stripBottom.value, stripTop.value],
  )
})

const drawn = (trace: Trace, values: number[], y: (v: number) => number) =>
  line<number>((_, i) => x.value(trace.engine_speed_rpm[i] ?? 0), y)(values) ?? ''
const noise = computed(
  () =>
    area<number>()
      .x((_, i) => x.value(speeds.value[i] ?? 0))
      .y0((v) => stripY.value(-v))
      .y1((v) => stripY.value(v))(chosen.value.noise) ?? '',
)
const speedTicks = computed(() => x.value.ticks(Math.max(3, Math.floor(width.value / 130))))
const valueAt = (values: number[], share: number) => values[Math.round((values.length - 1) * share)] ?? 0
const at = (share: number) => x.value(valueAt(speeds.value, share))
const signed = (v: number) => (v > 0 ? `+${v}` : String(v).replace('-', '−'))
/** Ticks only where the curves are: each scale belongs to its own. */
function within(ticks: number[], values: number[]): number[] {
  const [low, high] = ends(values)
  const room = (high - low) * 0.12
  return ticks.filter((t) => t >= low - room && t <= high + room)
}
const torqueTicks = computed(() =>
  within(torqueY.value.ticks(9), [...props.torque.stock, ...props.torque.other]),
)
const powerTicks = computed(() => within(powerY.value.ticks(9), [...props.power.stock, ...props.power.other]))
/** The names stand at the torque curves, the upper one above, the lower one below. */
const NAMES = 0.68
const stockBelow = computed(() => valueAt(props.torque.stock, NAMES) < valueAt(props.torque.other, NAMES))
</script>

<template>
  <div ref="box" class="plate">
    <svg
      :viewBox="`0 0 ${width} ${height}`"
      :width="width"
      :height="height"
      role="img"
      :aria-label="`Power and torque of ${other} against ${stock} from ${speeds[0]?.toFixed(0)} to ${speeds.at(-1)?.toFixed(0)} rpm. Mean power difference over the band ${band.power.mean_difference.text} ${power.unit}.`"
    >
      <rect
        class="band"
        :class="{ lit: lit === 'band-mean' }"
        :x="x(band.low_rpm)"
        :width="Math.max(0, x(band.high_rpm) - x(band.low_rpm))"
        :y="plateTop - 4"
        :height="stripBottom - plateTop + 4"
      />
      <text class="band-words" :x="x(band.low_rpm) + 6" :y="plateTop + 12">{{ bandWords }}</text>
      <g class="grid">
        <line
          v-for="t in torqueTicks"
          :key="t"
          :x1="LEFT"
          :x2="width - RIGHT"
          :y1="torqueY(t)"
          :y2="torqueY(t)"
        />
        <line v-for="t in speedTicks" :key="t" :x1="x(t)" :x2="x(t)" :y1="plateTop" :y2="stripBottom" />
      </g>
      <g class="scale mono">
        <text v-for="t in torqueTicks" :key="t" :x="LEFT - 8" :y="torqueY(t) + 4" text-anchor="end">
          {{ t }}
        </text>
        <text v-for="t in powerTicks" :key="t" :x="width - RIGHT + 8" :y="powerY(t) + 4">{{ t }}</text>
        <text v-for="t in speedTicks" :key="t" :x="x(t)" :y="height - 10" text-anchor="middle">{{ t }}</text>
        <text v-for="t in stripY.ticks(4)" :key="t" :x="LEFT - 8" :y="stripY(t) + 4" text-anchor="end">
          {{ signed(t) }}
        </text>
      </g>
      <text class="axis-name" :x="LEFT" y="14">torque, {{ torque.unit }}</text>
      <text class="axis-name" :x="width - RIGHT" y="14" text-anchor="end">power, {{ power.unit }}</text>
      <text class="axis-name" :x="width - RIGHT + 6" :y="height - 10">rpm</text>

      <path class="stock" :d="drawn(torque, torque.stock, torqueY)" />
      <path class="other" :class="{ lit: lit === 'line-other' }" :d="drawn(torque, torque.other, torqueY)" />
      <path class="stock" :d="drawn(power, power.stock, powerY)" />
      <path class="other" :class="{ lit: lit === 'line-other' }" :d="drawn(power, power.other, powerY)" />
      <g
        v-for="(p, name) in { 'peak-other': band.power.other_peak, 'peak-stock': band.power.stock_peak }"
        :key="name"
      >
        <circle
          :class="[name, { lit: lit === name }]"
          :cx="x(p.engine_speed_rpm)"
          :cy="powerY(p.value.value)"
          :r="lit === name ? 8 : 4"
        />
      </g>
      <text
        class="name other-name"
        :x="at(NAMES)"
        :y="torqueY(valueAt(torque.other, NAMES)) + (stockBelow ? -14 : 26)"
        text-anchor="start"
      >
        {{ other }}
      </text>
      <text
        class="name"
        :x="at(NAMES)"
        :y="torqueY(valueAt(torque.stock, NAMES)) + (stockBelow ? 26 : -14)"
        text-anchor="start"
      >
        {{ stock }}
      </text>
      <text class="kind" :x="at(0.02)" :y="torqueY(valueAt(torque.stock, 0.02)) - 12">torque</text>
      <text class="kind" :x="at(0.02)" :y="powerY(valueAt(power.stock, 0.02)) - 12">power</text>

      <text class="axis-name" :x="LEFT" :y="stripTop - 10">
        difference from {{ stock }}, {{ chosen.unit }} ({{ strip }})
      </text>
      <path class="noise" :class="{ lit: lit === 'strip' }" :d="noise" />
      <line class="zero" :x1="LEFT" :x2="width - RIGHT" :y1="stripY(0)" :y2="stripY(0)" />
      <path class="other" :class="{ lit: lit === 'strip' }" :d="drawn(chosen, chosen.difference, stripY)" />
      <line
        v-for="(c, i) in torque.crossings"
        :key="i"
        class="crossing"
        :class="{ lit: lit === `crossing-${i}` }"
        :x1="x(c.engine_speed_rpm)"
        :x2="x(c.engine_speed_rpm)"
        :y1="plateTop"
        :y2="stripBottom"
      />
      <text class="noise-words" :x="width - RIGHT - 6" :y="stripBottom - 6" text-anchor="end">
        shaded: repeat pulls vary this much
      </text>
    </svg>
  </div>
</template>

<style scoped>
.plate {
  min-width: 0;
  overflow: hidden;
}
svg {
  display: block;
}
.band {
  fill: var(--dye-wash);
  stroke: var(--dye);
  stroke-opacity: 0.35;
}
.band.lit {
  stroke-opacity: 1;
  stroke-width: 2;
}
.band-words {
  font: 500 14px var(--narrow);
  fill: var(--dye);
}
.grid line {
  stroke: var(--hair);
  stroke-opacity: 0.6;
}
.scale text {
  font-size: 13px;
  fill: var(--quiet);
}
.axis-name,
.noise-words,
.kind {
  font: 500 14px var(--narrow);
  fill: var(--quiet);
}
path.stock {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
}
path.other {
  fill: none;
  stroke: var(--cut);
  stroke-width: 3;
}
path.other.lit {
  stroke-width: 4.5;
}
.name {
  font: 600 16px var(--sans);
  fill: var(--ink);
}
.other-name {
  fill: var(--cut);
}
.peak-other {
  fill: var(--cut);
}
.peak-stock {
  fill: var(--ground);
  stroke: var(--ink);
  stroke-width: 1.6;
}
.noise {
  fill: var(--quiet);
  fill-opacity: 0.18;
}
.noise.lit {
  fill-opacity: 0.34;
}
.zero {
  stroke: var(--ink);
  stroke-width: 1.2;
}
.crossing {
  stroke: none;
}
.crossing.lit {
  stroke: var(--dye);
  stroke-width: 2;
}
</style>
