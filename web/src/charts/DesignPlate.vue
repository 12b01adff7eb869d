<script setup lang="ts">
/**
 * Designs on one plate: one quantity, every design's mean with its repeats thin behind, names at the right end; under it
 * on the same speeds what each makes more than the reference, filled in the band of speeds that is judged.
 */
import { scaleLinear } from 'd3-scale'
import { area, line } from 'd3-shape'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { useLit } from '@/ui/lit'
import { useWidth } from '@/ui/useWidth'
import BandMark from './BandMark.vue'
import { useBrush } from './brush'
import { apart, dashOf, hueOf, within } from './designLines'

const props = defineProps<{
  plate: Schemas['DesignsPlate']
  designs: Schemas['DesignView'][]
  /** Build ids that are not drawn. */
  hidden: string[]
  chosen: string | undefined
  quantity: 'power' | 'torque'
  band: [number, number] | undefined
  bandWords: string
  /** Where the time of the use goes, where that is not even. */
  shares: Schemas['ShareView'][]
  peaks: { stock?: number; other?: number }
  height: number
}>()
const emit = defineEmits<{ band: [band: [number, number]] }>()
const lit = useLit()
const box = ref<HTMLElement>()
const width = useWidth(box, 800, 360)

const LEFT = 52
const RIGHT = 168
const MOST_THIN = 12
const TOP = 26
/** Without anything to compare there is no strip. */
const bare = computed(() => props.plate.differences.length === 0)
const plateBottom = computed(() =>
  bare.value ? props.height - 28 : Math.round(TOP + (props.height - TOP - 74) * 0.54),
)
const stripTop = computed(() => plateBottom.value + 34)
const stripBottom = computed(() => props.height - 28)

const unit = computed(() => (props.quantity === 'power' ? props.plate.power_unit : props.plate.torque_unit))
/** What is not comparable is not drawn beside the reference: it has no difference. */
const comparable = computed(() => new Set(props.plate.differences.map((d) => d.build_id)))
const curves = computed(() =>
  props.plate.curves.filter(
    (c) => (c.is_reference || comparable.value.has(c.build_id)) && !props.hidden.includes(c.build_id),
  ),
)
const differences = computed(() => props.plate.differences.filter((d) => !props.hidden.includes(d.build_id)))
const reference = computed(() => props.plate.curves.find((c) => c.is_reference))
const valuesOf = (c: { power: number[]; torque: number[] }) => c[props.quantity]

const span = computed<[number, number]>(() => {
  const speeds = curves.value.flatMap((c) => [c.engine_speed_rpm[0] ?? 0, c.engine_speed_rpm.at(-1) ?? 1])
  return speeds.length ? [Math.min(...speeds), Math.max(...speeds)] : [0, 1]
})
const x = computed(() => scaleLinear(span.value, [LEFT, width.value - RIGHT]))
const y = computed(() => {
  const all = curves.value.flatMap(valuesOf)
  const [low, high] = [Math.min(...all), Math.max(...all)]
  const room = (high - low) * 0.05 || 1
  return scaleLinear([low - room, high + room], [plateBottom.value, TOP])
})
const brush = useBrush(
  box,
  (place) => x.value.invert(place),
  () => span.value,
  (chosen) => emit('band', chosen),
)
const band = computed(() => brush.band.value ?? props.band)
/** The room in which nothing can be told: of the chosen design, else the widest. */
const room = computed(
  () => differences.value.find((d) => d.build_id === props.chosen) ?? differences.value[0],
)
const roomOf = (d: Schemas['DifferenceView']) => (props.quantity === 'power' ? d.power_room : d.torque_room)
const stripY = computed(() => {
  const all = [0, ...differences.value.flatMap(valuesOf), ...(room.value ? roomOf(room.value) : [1])]
  const [low, high] = [Math.min(...all, -(Math.max(...all) * 0.15)), Math.max(...all)]
  const more = (high - low) * 0.06 || 1
  return scaleLinear([low - more, high + more], [stripBottom.value, stripTop.value])
})

const drawn = (speeds: number[], values: number[], to: (v: number) => number) =>
  line<number>((_, i) => x.value(speeds[i] ?? 0), to)(values) ?? ''
const filled = computed(() => {
  const one = differences.value.find((d) => d.build_id === props.chosen)
  if (!one || !band.value) return ''
  const inside = within(one.engine_speed_rpm, valuesOf(one), band.value)
  return (
    area<[number, number]>()
      .x(([n]) => x.value(n))
      .y0(stripY.value(0))
      .y1(([, v]) => stripY.value(v))(inside) ?? ''
  )
})
const roomPath = computed(() => {
  const one = room.value
  if (!one) return ''
  return (
    area<number>()
      .x((_, i) => x.value(one.engine_speed_rpm[i] ?? 0))
      .y0((v) => Math.min(stripBottom.value, stripY.value(-v)))
      .y1((v) => Math.max(stripTop.value, stripY.value(v)))(roomOf(one)) ?? ''
  )
})
const ends = (of: { build_id: string; power: number[]; torque: number[] }[], to: (v: number) => number) =>
  apart(
    of.map((c) => ({ id: c.build_id, at: to(valuesOf(c).at(-1) ?? 0) })),
    16,
  )
const plateNames = computed(() => ends(curves.value, y.value))
const ROOM = 'too close to call'
const stripNames = computed(() => [
  ...apart(
    [
      ...differences.value.map((d) => ({ id: d.build_id, at: stripY.value(valuesOf(d).at(-1) ?? 0) })),
      ...(bare.value ? [] : [{ id: ROOM, at: stripY.value(0) }]),
    ],
    16,
  ),
])
const nameOf = (id: string) =>
  id === ROOM ? ROOM : (props.plate.curves.find((c) => c.build_id === id)?.name ?? '')
const shortName = (id: string) => {
  const name = nameOf(id)
  return name.length > 22 ? `${name.slice(0, 21)}…` : name
}
const design = (id: string) => props.designs.find((d) => d.build_id === id)
/** Repeats of all designs while they are few, else of the chosen one alone. */
const few = computed(() => props.plate.curves.reduce((sum, c) => sum + c.thin.length, 0) <= MOST_THIN)
const thinOf = (c: Schemas['CurveView']) => (few.value || c.build_id === props.chosen ? c.thin : [])
const look = (id: string) => ({
  class: [
    'design',
    {
      chosen: id === props.chosen,
      lit: lit.value === `line-${id}`,
      reference: id === reference.value?.build_id,
    },
  ],
  style: { '--hue': hueOf(design(id)?.hue) },
  'stroke-dasharray': dashOf(design(id)?.dash),
})
const ticks = computed(() => x.value.ticks(Math.max(3, Math.floor(width.value / 130))))
const signed = (v: number) => (v > 0 ? `+${v}` : String(v).replace('-', '−'))
const crossings = computed(() => differences.value.find((d) => d.build_id === props.chosen)?.crossings ?? [])
const markOf = (id: string | undefined, rpm: number | undefined) => {
  const c = props.plate.curves.find((one) => one.build_id === id)
  if (!c || rpm === undefined || props.hidden.includes(c.build_id)) return undefined
  const at = c.engine_speed_rpm.findIndex((n) => n >= rpm)
  return { x: x.value(rpm), y: y.value(valuesOf(c)[at] ?? 0) }
}
const marks = computed(() =>
  props.quantity === 'power'
    ? {
        'peak-stock': markOf(reference.value?.build_id, props.peaks.stock),
        'peak-other': markOf(props.chosen, props.peaks.other),
      }
    : {},
)
const says = computed(() => {
  const names = curves.value.map((c) => c.name).join(', ')
  return `${props.quantity} of ${names} from ${span.value[0].toFixed(0)} to ${span.value[1].toFixed(0)} rpm, and the difference from ${reference.value?.name ?? ''}`
})
</script>

<template>
  <div
    ref="box"
    class="plate"
    @pointerdown="brush.start"
    @pointermove="brush.move"
    @pointerup="brush.end"
    @pointercancel="brush.end"
  >
    <svg :viewBox="`0 0 ${width} ${height}`" :width="width" :height="height" role="img" :aria-label="says">
      <BandMark
        v-if="band"
        :x="x"
        :span="span"
        :band="band"
        :words="brush.band.value ? `${band[0]} to ${band[1]}` : bandWords"
        :shares="brush.band.value ? [] : shares"
        :top="TOP"
        :bottom="stripBottom"
        :ground="plateBottom"
      />
      <g class="grid">
        <line v-for="t in y.ticks(5)" :key="t" :x1="LEFT" :x2="width - RIGHT" :y1="y(t)" :y2="y(t)" />
        <line
          v-for="t in bare ? [] : stripY.ticks(4)"
          :key="`s${t}`"
          :x1="LEFT"
          :x2="width - RIGHT"
          :y1="stripY(t)"
          :y2="stripY(t)"
        />
        <line v-for="t in ticks" :key="`x${t}`" :x1="x(t)" :x2="x(t)" :y1="TOP" :y2="stripBottom" />
      </g>
      <g class="scale mono">
        <text v-for="t in y.ticks(5)" :key="t" :x="LEFT - 8" :y="y(t) + 4" text-anchor="end">{{ t }}</text>
        <text
          v-for="t in bare ? [] : stripY.ticks(4)"
          :key="`s${t}`"
          :x="LEFT - 8"
          :y="stripY(t) + 4"
          text-anchor="end"
        >
          {{ signed(t) }}
        </text>
        <text v-for="t in ticks" :key="`x${t}`" :x="x(t)" :y="height - 8" text-anchor="middle">{{ t }}</text>
      </g>
      <text class="axis-name" x="8" y="14">{{ quantity }}, {{ unit }}</text>
      <text class="axis-name" :x="width - RIGHT + 22" :y="height - 8">rpm</text>
      <text v-if="!bare" class="axis-name" x="8" :y="stripTop - 10">
        difference from {{ reference?.name }}, {{ unit }}
      </text>
      <path v-if="!bare" class="room" :d="roomPath" />
      <g v-for="c in curves" :key="c.build_id">
        <path
          v-for="t in thinOf(c)"
          :key="t.pull_id"
          class="thin"
          :style="{ '--hue': hueOf(design(c.build_id)?.hue) }"
          :d="drawn(t.engine_speed_rpm, valuesOf(t), y)"
        />
        <path v-bind="look(c.build_id)" :d="drawn(c.engine_speed_rpm, valuesOf(c), y)" />
      </g>
      <path v-if="filled" class="filled" :style="{ '--hue': hueOf(design(chosen ?? '')?.hue) }" :d="filled" />
      <line v-if="!bare" class="zero" :x1="LEFT" :x2="width - RIGHT" :y1="stripY(0)" :y2="stripY(0)" />
      <path
        v-for="d in differences"
        :key="`d${d.build_id}`"
        v-bind="look(d.build_id)"
        :data-lit="lit === 'strip' && d.build_id === chosen"
        :d="drawn(d.engine_speed_rpm, valuesOf(d), stripY)"
      />
      <g
        v-for="(c, i) in crossings"
        :key="`c${i}`"
        class="crossing"
        :class="{ lit: lit === `crossing-${i}` }"
      >
        <line :x1="x(c.low_rpm)" :x2="x(c.high_rpm)" :y1="stripY(0)" :y2="stripY(0)" />
        <circle :cx="x(c.engine_speed_rpm)" :cy="stripY(0)" r="5" />
      </g>
      <template v-for="(m, name) in marks" :key="name">
        <circle
          v-if="m"
          :class="[name, { lit: lit === name }]"
          :cx="m.x"
          :cy="m.y"
          :r="lit === name ? 8 : 5"
        />
      </template>
      <g class="names">
        <g
          v-for="n in [
            ...plateNames.map((n) => ({ ...n, of: 'p' })),
            ...stripNames.map((n) => ({ ...n, of: 's' })),
          ]"
          :key="n.of + n.id"
        >
          <path
            v-if="Math.abs(n.to - n.at) > 3"
            class="lead"
            :d="`M${width - RIGHT + 2} ${n.at}L${width - RIGHT + 8} ${n.to}`"
          />
          <text
            :x="width - RIGHT + 11"
            :y="n.to + 5"
            :class="{ chosen: n.id === chosen }"
            :style="{ '--hue': n.id === ROOM ? 'var(--quiet)' : hueOf(design(n.id)?.hue) }"
          >
            <title>{{ n.id === ROOM ? 'shaded: at each speed alone, 19 times in 20' : nameOf(n.id) }}</title>
            {{ shortName(n.id) }}
          </text>
        </g>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.plate {
  cursor: crosshair;
  touch-action: pan-y;
  user-select: none;
  min-width: 0;
  overflow: hidden;
}
svg {
  display: block;
}
.grid line {
  stroke: var(--hair);
  stroke-opacity: 0.6;
}
.scale text {
  font-size: 13px;
  fill: var(--quiet);
}
.axis-name {
  font: 500 14px var(--narrow);
  fill: var(--quiet);
}
.design {
  fill: none;
  stroke: var(--hue);
  stroke-width: 1.8;
}
.design.reference {
  stroke-width: 1.6;
}
.design.chosen {
  stroke-width: 3;
}
.design.lit,
.design[data-lit='true'] {
  stroke-width: 4.5;
}
.thin {
  fill: none;
  stroke: var(--hue);
  stroke-opacity: 0.35;
  stroke-width: 0.8;
}
.filled {
  fill: var(--hue);
  fill-opacity: 0.16;
}
.room {
  fill: var(--quiet);
  fill-opacity: 0.18;
}
.zero {
  stroke: var(--ink);
  stroke-width: 1.2;
}
.crossing line {
  stroke: var(--dye);
  stroke-width: 3;
  stroke-opacity: 0.35;
}
.crossing circle {
  fill: var(--ground);
  stroke: var(--dye);
  stroke-width: 1.6;
}
.crossing.lit circle {
  stroke-width: 4;
}
.peak-other {
  fill: var(--cut);
}
.peak-stock {
  fill: var(--ground);
  stroke: var(--ink);
  stroke-width: 1.6;
}
.names text {
  font: 500 15px var(--narrow);
  fill: var(--hue);
}
.names text.chosen {
  font-weight: 700;
}
.lead {
  fill: none;
  stroke: var(--quiet);
  stroke-width: 0.8;
}
</style>
