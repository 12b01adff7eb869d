<script setup lang="ts">
/** An outline to scale with the clock round its middle; laid on it, what it meets, and where that stands in the stream. */
import { computed } from 'vue'
import { onClock } from '../section'
import { pathOf } from './outline'

const props = defineProps<{
  front: number[][]
  frontName: string
  behind?: number[][]
  behindName?: string
  /** The hour that is looked at, and the worst one with its words. */
  hour: number
  lipHour?: number | null
  lipText?: string
}>()
const WIDTH = 450
const HEIGHT = 372
const EDGE = 38
const X = WIDTH / 2
const Y = HEIGHT / 2
const all = computed(() => [...props.front, ...(props.behind ?? [])])
const reach = computed(() => ({
  across: Math.max(5, ...all.value.map(([x = 0]) => Math.abs(x))),
  up: Math.max(5, ...all.value.map(([, y = 0]) => Math.abs(y))),
}))
const scale = computed(() => Math.min((X - EDGE) / reach.value.across, (Y - EDGE) / reach.value.up))
const onPlate = (points: number[][]) =>
  points.map(([x = 0, y = 0]) => [X + x * scale.value, Y - y * scale.value])
const front = computed(() => pathOf(onPlate(props.front)))
const behind = computed(() => pathOf(onPlate(props.behind ?? [])))
const at = (hour: number, out: number) => {
  const p = onClock(hour, out)
  return { x: X + p.x, y: Y + p.y }
}
/** How far out the outline reaches at an hour: that of its point nearest to it. */
const radiusAt = (hour: number) => {
  const to = onClock(hour, 1)
  let best = { along: -2, out: 0 }
  for (const [x = 0, y = 0] of props.front) {
    const out = Math.hypot(x, y) || 1
    const along = (x * to.x - y * to.y) / out
    if (along > best.along) best = { along, out }
  }
  return best.out * scale.value
}
const inner = computed(() => 0.7 * Math.min(...[0, 3, 6, 9].map((h) => radiusAt(h))))
const ruler = computed(() => {
  const mm = [5, 10, 20, 50, 100].find((one) => one * scale.value > 60) ?? 100
  return { mm, length: mm * scale.value }
})
const lip = computed(() =>
  props.lipHour == null
    ? undefined
    : {
        from: at(props.lipHour, radiusAt(props.lipHour) - 2),
        to: at(props.lipHour, radiusAt(props.lipHour) + 26),
      },
)
const HOURS = Array.from({ length: 12 }, (_, n) => n + 1)
</script>

<template>
  <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" role="img" :aria-label="`${frontName}, seen from the entry`">
    <defs>
      <mask id="in-stream">
        <rect :width="WIDTH" :height="HEIGHT" fill="black" />
        <path :d="front" fill="white" />
        <path v-if="behind" :d="behind" fill="black" />
      </mask>
    </defs>
    <path class="open" :d="front" />
    <rect v-if="behind" class="stands" :width="WIDTH" :height="HEIGHT" mask="url(#in-stream)" />
    <path v-if="behind" class="behind" :d="behind" />
    <path class="front" :d="front" />
    <g class="clock">
      <text v-for="h in HOURS" :key="h" :x="at(h, inner).x" :y="at(h, inner).y + 5">{{ h }}</text>
      <path :d="`M${X - 9},${Y}h18M${X},${Y - 9}v18`" />
    </g>
    <line
      class="hand"
      :x1="at(hour, inner + 14).x"
      :y1="at(hour, inner + 14).y"
      :x2="at(hour, radiusAt(hour) + 10).x"
      :y2="at(hour, radiusAt(hour) + 10).y"
    />
    <g v-if="lip" class="lip">
      <line :x1="lip.from.x" :y1="lip.from.y" :x2="lip.to.x" :y2="lip.to.y" />
      <text :x="lip.to.x" :y="lip.to.y + (lip.to.y > Y ? 16 : -4)">{{ lipText }}</text>
    </g>
    <text class="name front" x="14" y="22">{{ frontName }}</text>
    <text v-if="behind" class="name behind" x="14" y="41">{{ behindName }}</text>
    <g class="ruler">
      <path
        :d="`M14,${HEIGHT - 12}h${ruler.length}M14,${HEIGHT - 17}v10M${14 + ruler.length},${HEIGHT - 17}v10`"
      />
      <text x="14" :y="HEIGHT - 24">{{ ruler.mm }} mm</text>
    </g>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  max-height: 100%;
  background: var(--faint);
}
.open {
  fill: var(--sheet);
}
.front {
  fill: none;
  stroke: var(--cut);
  stroke-width: 2.5;
}
.behind {
  fill: none;
  stroke: var(--dye);
  stroke-width: 2;
  stroke-dasharray: 7 4;
}
.stands {
  fill: var(--doubt);
}
.clock text {
  font: 500 14px var(--mono);
  fill: var(--quiet);
  text-anchor: middle;
}
.clock path,
.ruler path {
  stroke: var(--quiet);
  fill: none;
}
.hand {
  stroke: var(--ink);
  stroke-dasharray: 2 3;
}
.lip line {
  stroke: var(--doubt);
  stroke-width: 2;
}
.lip text {
  font: 600 18px var(--mono);
  fill: var(--doubt);
  text-anchor: middle;
}
.name {
  font: 600 16px var(--narrow);
  stroke: none;
}
.name.front {
  fill: var(--cut);
}
.name.behind {
  fill: var(--dye);
}
.ruler text {
  font: 500 13px var(--narrow);
  fill: var(--quiet);
}
</style>
