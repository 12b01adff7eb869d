<script setup lang="ts">
/**
 * Drop up to the plenum over engine speed, with the shop's line; its axis is the speed slider. What is thought of is a
 * heavy copper line beside the thin one of the path as it is.
 */
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { useWidth } from '@/ui/useWidth'

const props = defineProps<{
  points: Schemas['CurvePoint'][]
  /** What the drop is told up to: the plenum, or the throttles. */
  endsAt: string
  rpm: number
  limitKpa: number
  passedRpm: number | null
  thought: boolean
  height: number
}>()
const emit = defineEmits<{ rpm: [rpm: number] }>()
const box = ref<HTMLElement>()
const width = useWidth(box, 420, 240)

const LEFT = 34
const RIGHT = 16
const TOP = 22
const bottom = computed(() => props.height - 44)
const low = computed(() => props.points[0]?.rpm ?? 1000)
const high = computed(() => props.points.at(-1)?.rpm ?? 7000)
const x = computed(() => scaleLinear([low.value, high.value], [LEFT, width.value - RIGHT]))
const most = computed(() =>
  Math.max(props.limitKpa * 1.3, ...props.points.flatMap((p) => [p.as_is_kpa ?? 0, p.changed_kpa ?? 0])),
)
const y = computed(() => scaleLinear([0, most.value], [bottom.value, TOP]).nice(4))
type Point = Schemas['CurvePoint']
const drawn = (value: (p: Point) => number | null | undefined) =>
  line<Point>(
    (p) => x.value(p.rpm),
    (p) => y.value(value(p) ?? 0),
  ).defined((p) => value(p) != null)(props.points) ?? ''
const ticks = computed(() => x.value.ticks(Math.max(2, Math.floor(width.value / 90))))

/** Where the speed is written: at its marker, but inside the picture. */
const rpmAt = computed(() => Math.min(width.value - 44, Math.max(44, x.value(props.rpm))))

function move(event: PointerEvent): void {
  if (event.type === 'pointermove' && !(event.buttons & 1)) return
  const svg = event.currentTarget as SVGSVGElement
  svg.setPointerCapture(event.pointerId)
  emit('rpm', x.value.invert(event.clientX - svg.getBoundingClientRect().left))
}
function key(event: KeyboardEvent): void {
  const by = { ArrowLeft: -100, ArrowRight: 100, PageDown: -500, PageUp: 500 }[event.key]
  if (by === undefined) return
  event.preventDefault()
  event.stopPropagation()
  emit('rpm', props.rpm + by)
}
</script>

<template>
  <div ref="box" class="plate">
    <svg
      :viewBox="`0 0 ${width} ${height}`"
      :width="width"
      :height="height"
      role="slider"
      tabindex="0"
      aria-label="Engine speed, with the drop up to the plenum over it"
      :aria-valuemin="low"
      :aria-valuemax="high"
      :aria-valuenow="rpm"
      :aria-valuetext="`${rpm} rpm`"
      @pointerdown="move"
      @pointermove="move"
      @keydown="key"
    >
      <text class="title" :x="LEFT" y="13">pressure drop to {{ endsAt }}, kPa</text>
      <g v-for="t in y.ticks(4)" :key="t" class="grid">
        <line :x1="LEFT" :x2="width - RIGHT" :y1="y(t)" :y2="y(t)" />
        <text :x="LEFT - 6" :y="y(t) + 4" text-anchor="end">{{ t }}</text>
      </g>
      <line class="limit" :x1="LEFT" :x2="width - RIGHT" :y1="y(limitKpa)" :y2="y(limitKpa)" />
      <text class="limit-words" :x="width - RIGHT - 2" :y="y(limitKpa) + 15" text-anchor="end">
        your limit{{ passedRpm ? `, exceeded from ${passedRpm} rpm` : '' }}
      </text>
      <path class="as-is" :d="drawn((p) => p.as_is_kpa)" />
      <path v-if="thought" class="thought" :d="drawn((p) => p.changed_kpa)" />
      <line class="marker" :x1="x(rpm)" :x2="x(rpm)" :y1="TOP - 4" :y2="bottom" />
      <path class="handle" :d="`M${x(rpm)},${bottom}l8,9v9h-16v-9z`" />
      <g v-for="t in ticks" :key="`x${t}`" class="ticks">
        <text v-if="Math.abs(x(t) - rpmAt) > 60" :x="x(t)" :y="height - 8" text-anchor="middle">
          {{ t }}
        </text>
      </g>
      <text class="rpm" :x="rpmAt" :y="height - 7" text-anchor="middle">{{ rpm }} rpm</text>
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
  cursor: ew-resize;
  touch-action: none;
}
text {
  font: 500 13px var(--narrow);
  fill: var(--quiet);
}
.title {
  font-size: 14px;
}
.grid line {
  stroke: var(--faint);
}
.limit {
  stroke: var(--doubt);
  stroke-dasharray: 6 4;
}
.limit-words {
  fill: var(--doubt);
}
.as-is,
.thought {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
}
.thought {
  stroke: var(--cut);
  stroke-width: 3;
}
.marker {
  stroke: var(--dye);
  stroke-width: 1.5;
}
.handle {
  fill: var(--dye);
}
.rpm {
  font: 600 15px var(--mono);
  fill: var(--dye);
}
</style>
