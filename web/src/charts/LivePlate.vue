<script setup lang="ts">
/** A sweep as it forms, over the curve that it is held against; where it stands now, and by how much it is ahead. */
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { useWidth } from '@/ui/useWidth'
import { aheadBy, driven, standing } from './liveSweep'

const props = defineProps<{
  /** Speed, power and torque of each sample, in the display units. */
  points: number[][]
  stock: Schemas['CurveView'] | undefined
  /** The earlier mean of the same design. */
  earlier: Schemas['CurveView'] | undefined
  units: { power: string; torque: string }
  quantity: 'power' | 'torque'
  height: number
}>()
const box = ref<HTMLElement>()
const width = useWidth(box, 800, 360)
const [LEFT, RIGHT, TOP, BOTTOM] = [52, 130, 24, 30]
const at = computed(() => (props.quantity === 'power' ? 1 : 2))
const sweep = computed(() => driven(props.points))
const known = computed(() => [props.stock, props.earlier].filter((c) => c !== undefined))
const x = computed(() => {
  const speeds = [...known.value.flatMap((c) => c.engine_speed_rpm), ...sweep.value.map((p) => p[0] ?? 0)]
  const [low, high] = speeds.length ? [Math.min(...speeds), Math.max(...speeds)] : [1000, 8000]
  return scaleLinear([low, Math.max(high, low + 2000)], [LEFT, width.value - RIGHT])
})
const y = computed(() => {
  const values = [
    ...known.value.flatMap((c) => c[props.quantity]),
    ...sweep.value.map((p) => p[at.value] ?? 0),
  ]
  const [low, high] = values.length ? [Math.min(...values), Math.max(...values)] : [0, 100]
  const room = (high - low) * 0.08 || 1
  return scaleLinear([Math.max(0, low - room), high + room], [props.height - BOTTOM, TOP])
})
const drawn = (speeds: number[], values: number[]) =>
  line<number>(
    (_, i) => x.value(speeds[i] ?? 0),
    (v) => y.value(v),
  )(values) ?? ''
const now = computed(() => standing(sweep.value, at.value))
const ahead = computed(() =>
  now.value && props.stock
    ? aheadBy(props.stock.engine_speed_rpm, props.stock[props.quantity], now.value.speed, now.value.value)
    : undefined,
)
const signed = (v: number) => `${v > 0 ? '+' : ''}${v.toFixed(1).replace('-', '−')}`
const ticks = computed(() => x.value.ticks(Math.max(3, Math.floor(width.value / 130))))
const ends = computed(() =>
  known.value.map((c) => ({
    name: c === props.stock ? c.name : `${c.name} before`,
    y: y.value(c[props.quantity].at(-1) ?? 0),
  })),
)
</script>

<template>
  <div ref="box" class="plate">
    <svg
      :viewBox="`0 0 ${width} ${height}`"
      :width="width"
      :height="height"
      role="img"
      :aria-label="`${quantity} as it forms`"
    >
      <g class="grid">
        <line v-for="t in y.ticks(5)" :key="t" :x1="LEFT" :x2="width - RIGHT" :y1="y(t)" :y2="y(t)" />
        <line v-for="t in ticks" :key="`x${t}`" :x1="x(t)" :x2="x(t)" :y1="TOP" :y2="height - BOTTOM" />
      </g>
      <g class="scale mono">
        <text v-for="t in y.ticks(5)" :key="t" :x="LEFT - 8" :y="y(t) + 4" text-anchor="end">{{ t }}</text>
        <text v-for="t in ticks" :key="`x${t}`" :x="x(t)" :y="height - 8" text-anchor="middle">{{ t }}</text>
      </g>
      <text class="axis-name" x="8" y="14">{{ quantity }}, {{ units[quantity] }}</text>
      <text class="axis-name" :x="width - RIGHT + 22" :y="height - 8">rpm</text>
      <path
        v-for="c in known"
        :key="c.name + (c === stock)"
        :class="c === stock ? 'stock' : 'earlier'"
        :d="drawn(c.engine_speed_rpm, c[quantity])"
      />
      <text v-for="e in ends" :key="e.name" class="name" :x="width - RIGHT + 8" :y="e.y + 5">
        {{ e.name }}
      </text>
      <path
        class="forming"
        :d="
          drawn(
            sweep.map((p) => p[0] ?? 0),
            sweep.map((p) => p[at] ?? 0),
          )
        "
      />
      <g v-if="now">
        <circle class="now" :cx="x(now.speed)" :cy="y(now.value)" r="6" />
        <text
          v-if="ahead !== undefined"
          class="ahead mono"
          :x="Math.min(x(now.speed) + 12, width - RIGHT - 170)"
          :y="ahead < 0 ? y(now.value) + 34 : Math.max(y(now.value) - 14, TOP + 10)"
        >
          {{ signed(ahead) }} {{ units[quantity] }} on {{ stock?.name }}
        </text>
      </g>
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
.stock,
.earlier,
.forming {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
}
.earlier {
  stroke: var(--cut);
  stroke-width: 1;
  stroke-dasharray: 5 4;
}
.forming {
  stroke: var(--cut);
  stroke-width: 3.2;
}
.now {
  fill: var(--cut);
}
.ahead {
  font-size: 22px;
  font-weight: 600;
  fill: var(--cut);
}
.name {
  font: 500 15px var(--narrow);
  fill: var(--ink);
}
</style>
