<script setup lang="ts">
/** Air gained over engine speed between its two bounds, against nothing gained; the band that matters is shaded. */
import { scaleLinear } from 'd3-scale'
import { area, line } from 'd3-shape'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'

type Point = Schemas['GainPoint']
const props = defineProps<{
  points: Point[]
  /** The same for all strips of a screen, so that they can be compared: percent. */
  low: number
  high: number
  band: [number, number]
  hard: boolean
  label: string
}>()
const WIDTH = 160
const HEIGHT = 58
const x = computed(() =>
  scaleLinear([props.points[0]?.rpm ?? 0, props.points.at(-1)?.rpm ?? 1], [2, WIDTH - 2]),
)
const y = computed(() => scaleLinear([props.low, props.high], [HEIGHT - 15, 4]))
const known = (p: Point) => p.low_percent != null && p.high_percent != null
const body = computed(
  () =>
    area<Point>()
      .defined(known)
      .x((p) => x.value(p.rpm))
      .y0((p) => y.value(p.low_percent ?? 0))
      .y1((p) => y.value(p.high_percent ?? 0))(props.points) ?? '',
)
const middle = computed(
  () =>
    line<Point>()
      .defined(known)
      .x((p) => x.value(p.rpm))
      .y((p) => y.value(((p.low_percent ?? 0) + (p.high_percent ?? 0)) / 2))(props.points) ?? '',
)
const ends = computed(() => [props.points[0]?.rpm ?? 0, props.points.at(-1)?.rpm ?? 0])
const unknown = computed(() => !props.points.some(known))
</script>

<template>
  <svg
    :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
    :width="WIDTH"
    :height="HEIGHT"
    role="img"
    :aria-label="label"
    :class="{ hard }"
  >
    <rect :x="x(band[0])" :width="x(band[1]) - x(band[0])" y="0" :height="HEIGHT - 12" class="band" />
    <line x1="0" :x2="WIDTH" :y1="y(0)" :y2="y(0)" class="zero" />
    <text v-if="unknown" :x="WIDTH / 2" :y="y(0) - 6" text-anchor="middle">not known</text>
    <text v-if="low > -0.5" class="tick" :x="3" :y="y(0) + (y(0) > HEIGHT - 28 ? -3 : 11)">0</text>
    <text v-if="high > 0.5" class="tick" :x="3" :y="11">+{{ high.toFixed(1) }} %</text>
    <template v-if="!unknown">
      <path :d="body" class="body" />
      <path :d="middle" class="middle" />
    </template>
    <text class="tick" :x="2" :y="HEIGHT - 1">{{ ends[0] }}</text>
    <text class="tick" :x="WIDTH - 2" :y="HEIGHT - 1" text-anchor="end">{{ ends[1] }} rpm</text>
  </svg>
</template>

<style scoped>
svg {
  display: block;
}
.band {
  fill: var(--faint);
}
.zero {
  stroke: var(--hair);
}
.body {
  fill: var(--cut);
  opacity: 0.3;
}
.middle {
  fill: none;
  stroke: var(--cut);
  stroke-width: 1.8;
}
.hard .body,
.hard .middle {
  opacity: 0.35;
}
text {
  font: italic 500 13px var(--narrow);
  fill: var(--quiet);
}
.tick {
  font: 500 11px var(--narrow);
}
</style>
