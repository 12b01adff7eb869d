<script setup lang="ts">
/** The edge behind against the edge in front, in mm round the clock: below the line it stands in the stream. */
import { scaleLinear } from 'd3-scale'
import { area, line } from 'd3-shape'
import { computed, ref } from 'vue'
import { useWidth } from '@/ui/useWidth'

const props = defineProps<{ clock: readonly number[]; hour: number; told: boolean; behind: string }>()
const box = ref<HTMLElement>()
const width = useWidth(box, 440, 260)
const HEIGHT = 178
const LEFT = 40
const BOTTOM = 26
const round = computed(() => [...props.clock, props.clock[0] ?? 0])
const reach = computed(() => {
  const low = Math.min(-0.2, ...props.clock)
  const high = Math.max(0.2, ...props.clock)
  const step = high - low > 3 ? 1 : high - low > 1.2 ? 0.5 : 0.2
  return { low: Math.floor(low / step) * step, high: Math.ceil(high / step) * step, step }
})
const x = computed(() => scaleLinear([0, 12], [LEFT, width.value - 8]))
const y = computed(() => scaleLinear([reach.value.low, reach.value.high], [HEIGHT - BOTTOM, 8]))
const at = (n: number) => x.value((n / props.clock.length) * 12)
const edge = computed(
  () =>
    line<number>()
      .x((_, n) => at(n))
      .y((v) => y.value(v))(round.value) ?? '',
)
const filled = (keep: (v: number) => number) =>
  area<number>()
    .x((_, n) => at(n))
    .y0(y.value(0))
    .y1((v) => y.value(keep(v)))(round.value) ?? ''
const back = computed(() => filled((v) => Math.max(v, 0)))
const into = computed(() => filled((v) => Math.min(v, 0)))
const ticks = computed(() => {
  const { low, high, step } = reach.value
  const count = Math.round((high - low) / step)
  return Array.from({ length: count + 1 }, (_, n) => low + n * step)
})
const text = (v: number) =>
  Math.abs(v) < 1e-9 ? '0' : `${v > 0 ? '+' : '−'}${Math.abs(v).toFixed(reach.value.step < 1 ? 1 : 0)}`
</script>

<template>
  <div ref="box" class="strip">
    <svg
      :viewBox="`0 0 ${width} ${HEIGHT}`"
      :width="width"
      :height="HEIGHT"
      role="img"
      :aria-label="`Edge of the ${behind}, mm round the clock`"
    >
      <g v-for="t in ticks" :key="t">
        <line
          class="grid"
          :class="{ zero: Math.abs(t) < 1e-9 }"
          :x1="LEFT"
          :x2="width - 8"
          :y1="y(t)"
          :y2="y(t)"
        />
        <text :x="LEFT - 6" :y="y(t) + 4" text-anchor="end">{{ text(t) }}</text>
      </g>
      <path class="back" :d="back" />
      <path class="into" :class="{ told }" :d="into" />
      <path class="edge" :d="edge" />
      <line class="hand" :x1="x(hour)" :x2="x(hour)" y1="8" :y2="HEIGHT - BOTTOM" />
      <text
        v-for="h in [12, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11]"
        :key="h"
        :x="x(h % 12)"
        :y="HEIGHT - 8"
        text-anchor="middle"
      >
        {{ h }}
      </text>
      <text :x="x(12)" :y="HEIGHT - 8" text-anchor="middle">12</text>
    </svg>
  </div>
</template>

<style scoped>
.strip {
  min-width: 0;
}
svg {
  display: block;
}
.grid {
  stroke: var(--faint);
}
.grid.zero {
  stroke: var(--ink);
}
.edge {
  fill: none;
  stroke: var(--dye);
  stroke-width: 2;
}
.back {
  fill: var(--dye-wash);
}
.into {
  fill: var(--hair);
}
.into.told {
  fill: var(--doubt);
}
.hand {
  stroke: var(--ink);
  stroke-dasharray: 2 3;
}
text {
  font: 500 12.5px var(--mono);
  fill: var(--quiet);
}
</style>
