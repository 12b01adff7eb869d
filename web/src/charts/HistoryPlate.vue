<script setup lang="ts">
/** Mean flow of a part or casting over time: open as it came, filled once cut, a diamond where another shop read it. */
import { scaleLinear, scaleTime } from 'd3-scale'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { useLit } from '@/ui/lit'

const props = defineProps<{ rows: Schemas['HistoryRow'][] }>()
const lit = useLit()
const WIDTH = 760
const HEIGHT = 300
const LEFT = 50
const RIGHT = 40
const times = computed(() => props.rows.map((r) => new Date(r.at)))
const flows = computed(() => props.rows.flatMap((r) => [r.mean.value, ...(r.ours ? [r.ours.value] : [])]))
const DAY = 86_400_000
const x = computed(() => {
  const low = Math.min(...times.value.map(Number))
  const high = Math.max(...times.value.map(Number))
  const room = Math.max((high - low) * 0.06, 7 * DAY)
  return scaleTime([new Date(low - room), new Date(high + room)], [LEFT, WIDTH - RIGHT])
})
const y = computed(() => {
  const low = Math.min(...flows.value)
  const high = Math.max(...flows.value)
  const room = Math.max(high - low, high * 0.02) * 0.2
  return scaleLinear([low - room, high + room], [HEIGHT - 34, 24]).nice(4)
})
/** Days where all of it lies within a season, else months. */
const date = (at: Date) => {
  const [low, high] = x.value.domain()
  const short = Number(high) - Number(low) < 90 * DAY
  return at.toLocaleDateString('en-GB', {
    ...(short ? { day: 'numeric' } : { year: 'numeric' }),
    month: 'short',
  })
}
const unit = computed(() => props.rows[0]?.mean.unit ?? '')
const diamond = (cx: number, cy: number) =>
  `M${cx},${cy - 8}L${cx + 8},${cy}L${cx},${cy + 8}L${cx - 8},${cy}Z`
</script>

<template>
  <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" role="img" aria-label="Mean flow over time">
    <g class="grid">
      <template v-for="t in y.ticks(4)" :key="t">
        <line :x1="LEFT" :x2="WIDTH - RIGHT" :y1="y(t)" :y2="y(t)" />
        <text :x="LEFT - 8" :y="y(t) + 4" text-anchor="end">{{ t }}</text>
      </template>
      <text :x="LEFT" y="14" class="unit">{{ unit }}, average of what was read</text>
      <text v-for="t in x.ticks(4)" :key="Number(t)" :x="x(t)" :y="HEIGHT - 12" text-anchor="middle">
        {{ date(t) }}
      </text>
    </g>
    <g v-for="(r, i) in rows" :key="i" :class="{ lit: lit === `row-${i}` }">
      <path
        v-if="r.shop"
        :d="diamond(x(new Date(r.at)), y(r.mean.value))"
        :class="['mark', r.cut ? 'filled' : 'open']"
      />
      <circle
        v-else
        :cx="x(new Date(r.at))"
        :cy="y(r.mean.value)"
        r="7"
        :class="['mark', r.cut ? 'filled' : 'open']"
      />
      <line
        v-if="r.ours"
        :x1="x(new Date(r.at))"
        :x2="x(new Date(r.at))"
        :y1="y(r.mean.value)"
        :y2="y(r.ours.value)"
        class="ours"
      />
      <title>{{ r.job }}, {{ r.state }}: {{ r.mean.text }} {{ r.mean.unit }}</title>
    </g>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  max-width: 940px;
  max-height: 440px;
}
text {
  font: 500 13px var(--mono);
  fill: var(--quiet);
}
.unit {
  font: 500 14px var(--narrow);
}
.grid line {
  stroke: var(--hair);
  stroke-width: 0.8;
}
.mark {
  stroke-width: 2.2;
}
.open {
  fill: var(--sheet);
  stroke: var(--ink);
}
.filled {
  fill: var(--cut);
  stroke: var(--cut);
}
.ours {
  stroke: var(--doubt);
  stroke-width: 2;
  stroke-dasharray: 3 3;
}
.lit .mark {
  stroke: var(--dye);
  stroke-width: 4;
}
</style>
