<script setup lang="ts">
/** One candidate: what it gains over speed, what it costs, its score, and what stands against it. */
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import GainStrip from '@/charts/GainStrip.vue'
import { useLit } from '@/ui/lit'
import { CRITERIA } from './criteria'
import ObjectionList from './ObjectionList.vue'

const props = defineProps<{
  candidate: Schemas['Candidate']
  rank: number
  on: boolean
  /** Lowest and highest gain of all rows, so that they can be compared: percent. */
  shared: { low: number; high: number }
  band: [number, number]
  currency: string
}>()
const lit = useLit()
const span = computed(() => {
  const c = props.candidate
  if (c.gain_low_percent == null || c.gain_high_percent == null) return 'not known'
  const text = (v: number) => `${v < 0 ? '−' : ''}${Math.abs(v).toFixed(1)}`
  const [low, high] = [text(c.gain_low_percent), text(c.gain_high_percent)]
  return low === high ? `${high} %` : `${low} to ${high} %`
})
const minutes = computed(() => {
  const m = props.candidate.work_minutes
  return m ? `${m.toFixed(0)} min` : 'none'
})
</script>

<template>
  <li
    class="candidate"
    :class="{ on: on, lit: lit === `candidate-${candidate.part_id}`, hard: candidate.hard }"
  >
    <span class="rank mono">{{ candidate.hard ? '×' : rank }}</span>
    <div class="name">
      <strong>{{ candidate.name }}</strong>
      <span class="quiet narrow">
        {{ candidate.maker }}
        <template v-if="candidate.bore"> · bore {{ candidate.bore.text }} {{ candidate.bore.unit }}</template>
        <template v-else-if="candidate.advertised_bore">
          · {{ candidate.advertised_bore.text }} {{ candidate.advertised_bore.unit }} advertised</template
        >
      </span>
      <span v-if="candidate.flow" class="narrow" :class="{ guess: candidate.flow_grade !== 'measured' }">
        {{ candidate.flow.text }} {{ candidate.flow.unit
        }}{{
          candidate.flow_grade === 'measured'
            ? ''
            : candidate.flow_grade === 'rule'
              ? ', by its maker’s bore'
              : ', estimated'
        }}
      </span>
    </div>
    <GainStrip
      :points="candidate.curve"
      :low="shared.low"
      :high="shared.high"
      :band="band"
      :hard="candidate.hard"
      :label="`${candidate.name}: air gain over rpm`"
    />
    <dl>
      <div>
        <dt>air</dt>
        <dd class="mono" :class="{ guess: candidate.gain_low_percent == null }">{{ span }}</dd>
      </div>
      <div>
        <dt>price</dt>
        <dd class="mono" :class="{ doubt: candidate.over_budget }">
          {{ candidate.price == null ? '–' : `${candidate.price.toFixed(0)} ${currency}` }}
        </dd>
      </div>
      <div>
        <dt>work</dt>
        <dd class="mono">{{ minutes }}</dd>
      </div>
      <div>
        <dt>lead time</dt>
        <dd class="mono">{{ candidate.lead_days == null ? '–' : `${candidate.lead_days} d` }}</dd>
      </div>
      <div>
        <dt>weight</dt>
        <dd class="mono">{{ candidate.mass_kg == null ? '–' : `${candidate.mass_kg.toFixed(1)} kg` }}</dd>
      </div>
      <div>
        <dt>for 1 %</dt>
        <dd class="mono">
          {{
            candidate.cost_per_percent == null
              ? '–'
              : `${Math.round(candidate.cost_per_percent / 10) * 10} ${currency}`
          }}
        </dd>
      </div>
    </dl>
    <div v-if="!candidate.hard" class="score">
      <span class="mono total">{{ candidate.score_percent?.toFixed(0) }}</span>
      <span class="bar" role="img" :aria-label="`score ${candidate.score_percent?.toFixed(0)} of 100`">
        <span
          v-for="(k, n) in CRITERIA"
          :key="k.name"
          :class="`part criterion-${n}`"
          :style="{ width: `${candidate.score_parts[k.name] ?? 0}%` }"
          :title="`${k.label}: ${candidate.score_parts[k.name]?.toFixed(0)}`"
        />
      </span>
      <span v-if="candidate.there_now" class="narrow pareto-line">fitted now</span>
      <span v-else-if="candidate.idle" class="narrow doubt pareto-line">no gain</span>
      <span v-else-if="candidate.pareto" class="narrow pareto" title="No other is better in everything"
        >◆ short list</span
      >
    </div>
    <div v-else class="score narrow harm">needs work</div>
    <ObjectionList v-if="on || candidate.hard" :candidate="candidate" :whole="on" :currency="currency" />
  </li>
</template>

<style scoped>
.candidate {
  display: grid;
  grid-template-columns: 22px minmax(150px, 1fr) 190px minmax(0, 250px) 118px;
  gap: 2px 14px;
  align-items: center;
  padding: 7px 8px;
  border-bottom: 1px solid var(--hair);
  cursor: pointer;
}
.candidate.on {
  background: var(--sheet);
  box-shadow: inset 3px 0 0 var(--dye);
}
.candidate.lit {
  background: var(--dye-wash);
}
.rank {
  font-size: 18px;
}
.hard .rank {
  color: var(--harm);
}
.name {
  display: grid;
  line-height: 1.25;
}
.guess {
  font-style: italic;
  color: var(--quiet);
}
dl {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 0 12px;
  margin: 0;
  font-size: 15px;
}
dl > div {
  display: flex;
  justify-content: space-between;
  gap: 6px;
  white-space: nowrap;
}
dt {
  font: 500 14px/1.5 var(--narrow);
  color: var(--quiet);
}
dd {
  margin: 0;
  font-size: 14px;
}
.score {
  display: grid;
  grid-template-columns: 44px 1fr;
  align-items: center;
}
.score.harm {
  display: block;
}
.total {
  font-size: 20px;
}
.bar {
  display: flex;
  height: 11px;
  background: var(--faint);
}
.part {
  height: 100%;
  background: var(--criterion);
  opacity: var(--criterion-opacity, 1);
}
.pareto,
.pareto-line {
  grid-column: 1 / -1;
}
.pareto {
  color: var(--dye);
}
@media (max-width: 1000px) {
  .candidate {
    grid-template-columns: 22px minmax(0, 1fr) 190px;
  }
  .candidate dl,
  .candidate .score {
    grid-column: 2 / -1;
  }
}
</style>
