<script setup lang="ts">
/**
 * What is spent against the air that is gained, step by step: each set a staircase from nothing, the one that is marked
 * heavy and named at its steps. The shop's budget stands as a line.
 */
import { scaleLinear } from 'd3-scale'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { useWidth } from '@/ui/useWidth'

type SetView = Schemas['SetView']
const props = defineProps<{
  sets: SetView[]
  marked: string
  budget: number | null
  currency: string
  height: number
}>()
const box = ref<HTMLElement>()
const width = useWidth(box, 640, 300)
const LEFT = 44
const RIGHT = 26
const TOP = 30
const bottom = computed(() => props.height - 26)

interface Tread {
  spent: number
  low: number
  high: number
  middle: number
  names: string[]
}
const treads = (set: SetView): Tread[] =>
  set.steps.flatMap((s) =>
    s.spent == null || s.gain_low_percent == null || s.gain_high_percent == null
      ? []
      : [
          {
            spent: s.spent,
            low: s.gain_low_percent,
            high: s.gain_high_percent,
            middle: (s.gain_low_percent + s.gain_high_percent) / 2,
            names: s.names,
          },
        ],
  )
const all = computed(() => props.sets.flatMap(treads))
const x = computed(() => {
  const most = Math.max(props.budget ?? 0, ...all.value.map((t) => t.spent), 1)
  return scaleLinear([0, most * 1.06], [LEFT, width.value - RIGHT])
})
const y = computed(() =>
  scaleLinear(
    [Math.min(0, ...all.value.map((t) => t.low)), Math.max(0.2, ...all.value.map((t) => t.high)) * 1.12],
    [bottom.value, TOP],
  ),
)
/** Money is spent before air is gained: to the right, then up. */
function stairs(set: SetView): string {
  const points = treads(set).map((t) => `H${x.value(t.spent).toFixed(1)}V${y.value(t.middle).toFixed(1)}`)
  return points.length ? `M${x.value(0)},${y.value(0)}${points.join('')}` : ''
}
const one = computed(() => props.sets.find((s) => s.key === props.marked))
const marks = computed(() => (one.value ? treads(one.value) : []))
const rest = computed(() => props.sets.filter((s) => s.key !== props.marked))
/** A step is named at its left, over the tread that leads to it, where the axis leaves room. */
const roomLeft = (t: Tread) => x.value(t.spent) - LEFT > 7.5 * t.names.join(' + ').length + 24
</script>

<template>
  <div ref="box" class="plate">
    <svg
      :viewBox="`0 0 ${width} ${height}`"
      :width="width"
      :height="height"
      role="img"
      :aria-label="`Air gained over what is spent, for ${sets.length} sets`"
    >
      <text class="title" :x="LEFT" y="14">air gained, % (estimate)</text>
      <g v-for="t in y.ticks(4)" :key="t" class="grid">
        <line :x1="LEFT" :x2="width - RIGHT" :y1="y(t)" :y2="y(t)" />
        <text :x="LEFT - 6" :y="y(t) + 4" text-anchor="end">{{ t }}</text>
      </g>
      <g v-for="t in x.ticks(Math.max(2, Math.floor(width / 130)))" :key="`x${t}`">
        <text :x="x(t)" :y="height - 6" text-anchor="middle">{{ t }}</text>
      </g>
      <text class="title" :x="width - RIGHT" y="14" text-anchor="end">spent, {{ currency }}</text>
      <template v-if="budget != null">
        <line class="budget" :x1="x(budget)" :x2="x(budget)" :y1="TOP - 10" :y2="bottom" />
        <text class="budget-words" :x="x(budget) - 5" :y="bottom - 6" text-anchor="end">budget</text>
      </template>
      <path v-for="s in rest" :key="s.key" class="other" :d="stairs(s)" />
      <template v-if="one">
        <line
          v-for="t in marks"
          :key="t.spent"
          class="span"
          :x1="x(t.spent)"
          :x2="x(t.spent)"
          :y1="y(t.low)"
          :y2="y(t.high)"
        />
        <path class="mine" :d="stairs(one)" />
        <g v-for="(t, i) in marks" :key="`n${t.spent}`">
          <circle class="dot" :cx="x(t.spent)" :cy="y(t.middle)" r="4.5" />
          <text
            class="name"
            :x="x(t.spent) + (roomLeft(t) ? -9 : 0)"
            :y="y(t.middle) - 8"
            :text-anchor="roomLeft(t) ? 'end' : 'start'"
          >
            {{ i + 1 }} {{ t.names.join(' + ') }}
          </text>
        </g>
      </template>
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
.budget {
  stroke: var(--doubt);
  stroke-dasharray: 6 4;
}
.budget-words {
  fill: var(--doubt);
}
.other,
.mine {
  fill: none;
  stroke: var(--quiet);
  stroke-width: 1.2;
}
.mine {
  stroke: var(--cut);
  stroke-width: 2.6;
}
.span {
  stroke: var(--cut);
  stroke-width: 9;
  opacity: 0.3;
}
.dot {
  fill: var(--cut);
}
.name {
  font: 600 14px var(--narrow);
  fill: var(--ink);
}
</style>
