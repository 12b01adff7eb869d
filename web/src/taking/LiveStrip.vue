<script setup lang="ts">
/** The sample strip: the last seconds of what the bench sends, the mean forming at its end, and whether it has settled. */
import { computed } from 'vue'
import type { LiveState } from './live'

const props = defineProps<{
  state: LiveState
  strip: number[]
  fresh: number
  needed: number
  last: number
  /** Nothing is to flow now: how little of its range the bench shows is no doubt. */
  still?: boolean
}>()
const WIDTH = 344
const HEIGHT = 54
const LEAST_SPAN = 0.02 // of the figure: a calm bench is drawn calm
const STEP = 2.8

const view = computed(() => {
  const values = props.strip
  const middle = values.reduce((sum, v) => sum + v, 0) / Math.max(1, values.length)
  const half = Math.max(middle * (LEAST_SPAN / 2), ...values.map((v) => Math.abs(v - middle))) || 1
  const y = (v: number) => HEIGHT / 2 - ((v - middle) / half) * (HEIGHT / 2 - 4)
  const x = (n: number) => WIDTH - (values.length - 1 - n) * STEP
  const path = values.map((v, n) => `${n ? 'L' : 'M'}${x(n).toFixed(1)},${y(v).toFixed(1)}`).join('')
  const forming = values.slice(-Math.max(1, props.fresh))
  const mean = forming.reduce((sum, v) => sum + v, 0) / Math.max(1, forming.length)
  return { path, from: x(values.length - forming.length), meanY: y(mean), has: props.fresh > 0 }
})
const settled = computed(() => props.state.taken?.settled && props.fresh >= props.needed)
</script>

<template>
  <div class="live" :data-sample="last">
    <p v-if="state.state !== 'speaking'" class="doubt" role="status">
      {{ state.words }} Figures can be typed.
    </p>
    <template v-else>
      <svg
        :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
        :width="WIDTH"
        :height="HEIGHT"
        role="img"
        aria-label="Samples"
      >
        <rect
          v-if="view.has"
          :x="view.from"
          :width="WIDTH - view.from"
          y="0"
          :height="HEIGHT"
          class="taken"
        />
        <path :d="view.path" class="samples" />
        <line v-if="view.has" :x1="view.from" :x2="WIDTH" :y1="view.meanY" :y2="view.meanY" class="mean" />
      </svg>
      <p class="words narrow">
        <span :class="{ settled }">{{ settled ? '● settled' : '○ not settled yet' }}</span>
        <span>{{ fresh < needed ? `${Math.max(0, fresh)} of ${needed} samples` : `mean of ${needed}` }}</span>
        <span v-if="state.scatter" class="mono">±{{ state.scatter.text }}</span>
        <span v-if="state.taken" class="mono">{{ state.taken.depression_inh2o.toFixed(1) }} inH2O</span>
        <span v-if="state.taken?.range_percent != null" class="mono">
          {{ state.taken.range_percent.toFixed(0) }} % of range
        </span>
      </p>
      <p v-for="d in still ? [] : state.doubts" :key="d" class="doubt">{{ d }}</p>
    </template>
  </div>
</template>

<style scoped>
.live {
  display: grid;
  gap: 4px;
}
svg {
  display: block;
  max-width: 100%;
  border-bottom: 1px solid var(--hair);
}
.samples {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.3;
}
.taken {
  fill: var(--dye-wash);
}
.mean {
  stroke: var(--dye);
  stroke-width: 2;
}
.words {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  align-items: baseline;
  font-size: 15px;
}
.settled {
  color: var(--dye);
  font-weight: 600;
}
</style>
