<script setup lang="ts">
/** A compressor's map: its points by flow and ratio, efficiency at each; and the way to take one from a file. */
import { scaleLinear } from 'd3-scale'
import { computed, ref } from 'vue'
import { problemIn, type Problem, type Schemas } from '@/api/client'
import ProblemNote from '@/ui/ProblemNote.vue'

const props = defineProps<{ partId: string; version: number; points: Schemas['MapPoint-Output'][] }>()
const emit = defineEmits<{ taken: [] }>()
const problem = ref<Problem>()
const file = ref<HTMLInputElement>()
const [WIDTH, HEIGHT, LEFT, BOTTOM] = [430, 210, 40, 30]
const most = computed(() => Math.max(0.01, ...props.points.map((p) => p.flow_kg_s)) * 1.08)
const high = computed(() => Math.max(1.5, ...props.points.map((p) => p.ratio)) * 1.05)
const x = computed(() => scaleLinear([0, most.value], [LEFT, WIDTH - 12]))
const y = computed(() => scaleLinear([1, high.value], [HEIGHT - BOTTOM, 18]))

async function take(input: HTMLInputElement): Promise<void> {
  const found = input.files?.[0]
  input.value = ''
  if (!found) return
  try {
    const address = `/api/parts/${props.partId}/map?version=${props.version}`
    const answer = await fetch(address, { method: 'POST', body: found })
    problem.value = answer.ok ? undefined : ((await answer.json()) as Problem)
    if (answer.ok) emit('taken')
  } catch (error) {
    problem.value = problemIn(error, 'The map is not taken. Try again.')
  }
}
</script>

<template>
  <section aria-label="Compressor map">
    <h2>Compressor map</h2>
    <svg
      v-if="points.length"
      :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
      :width="WIDTH"
      :height="HEIGHT"
      role="img"
      aria-label="Efficiency over flow and pressure ratio"
    >
      <text :x="LEFT" y="12">pressure ratio</text>
      <text :x="WIDTH - 12" :y="HEIGHT - 4" text-anchor="end">kg/s at 25 °C, 100 kPa</text>
      <g v-for="t in y.ticks(4)" :key="t">
        <line :x1="LEFT" :x2="WIDTH - 12" :y1="y(t)" :y2="y(t)" />
        <text :x="LEFT - 6" :y="y(t) + 4" text-anchor="end">{{ t }}</text>
      </g>
      <text v-for="t in x.ticks(5)" :key="`x${t}`" :x="x(t)" :y="HEIGHT - BOTTOM + 15" text-anchor="middle">
        {{ t }}
      </text>
      <text
        v-for="(p, i) in points"
        :key="`p${i}`"
        class="point"
        :x="x(p.flow_kg_s)"
        :y="y(p.ratio) + 4"
        text-anchor="middle"
      >
        {{ p.efficiency_percent.toFixed(0) }}
      </text>
    </svg>
    <p v-else class="quiet">
      None yet: its efficiency counts as stated. A table of flow [kg/s or lb/min], pressure ratio and
      efficiency.
    </p>
    <button type="button" class="way" @click="file?.click()">Take a map from a file</button>
    <input
      ref="file"
      type="file"
      accept=".csv,.tsv,.txt,.xlsx"
      hidden
      @change="take($event.target as HTMLInputElement)"
    />
    <ProblemNote v-if="problem" :problem="problem" />
  </section>
</template>

<style scoped>
svg {
  display: block;
}
line {
  stroke: var(--faint);
}
text {
  font: 500 13px var(--narrow);
  fill: var(--quiet);
}
.point {
  font: 600 13px var(--mono);
  fill: var(--ink);
}
</style>
