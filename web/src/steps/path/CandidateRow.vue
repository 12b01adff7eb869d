<script setup lang="ts">
/** One candidate: what it gains over speed, what it costs, its score, and what stands against it. */
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import GainStrip from '@/charts/GainStrip.vue'
import { useLit } from '@/ui/lit'
import { spanText, SUITS, type Criterion } from './criteria'
import ObjectionList from './ObjectionList.vue'

const props = defineProps<{
  candidate: Schemas['Candidate']
  rank: number
  on: boolean
  /** Lowest and highest gain of all rows, so that they can be compared: percent. */
  shared: { low: number; high: number }
  band: [number, number]
  currency: string
  criteria: Criterion[]
}>()
const lit = useLit()
const span = computed(() => spanText(props.candidate.gain_low_percent, props.candidate.gain_high_percent))
const suits = computed(() => {
  const c = props.candidate
  if (c.pareto) return { words: '◆ short list', tone: 'dye' }
  return SUITS[c.suits]
})
/** What is ruled out is one line until it is looked at. */
const folded = computed(() => props.candidate.hard && !props.on)
const worst = computed(() => props.candidate.conflicts.filter((c) => c.severity === 'hard'))
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
    <span class="rank mono">{{ candidate.hard ? '×' : candidate.there_now ? '=' : rank }}</span>
    <p v-if="folded" class="folded">
      <strong>{{ candidate.name }}</strong>
      <span class="narrow quiet">{{ candidate.maker }}</span>
      <span class="harm">{{ worst[0]?.text }}</span>
      <span v-if="worst.length > 1" class="narrow quiet">and {{ worst.length - 1 }} more</span>
    </p>
    <template v-else>
      <div class="name">
        <strong
          >{{ candidate.name
          }}<span v-if="candidate.pieces > 1" class="pieces"> × {{ candidate.pieces }}</span></strong
        >
        <span class="quiet narrow">
          {{ candidate.maker }}
          <template v-if="candidate.bore">
            · bore {{ candidate.bore.text }} {{ candidate.bore.unit }}</template
          >
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
          <dd class="mono">
            {{
              candidate.at_hand >= candidate.pieces
                ? `${candidate.at_hand} here`
                : candidate.lead_days == null
                  ? '–'
                  : `${candidate.lead_days} d`
            }}
          </dd>
        </div>
        <div>
          <dt>weight</dt>
          <dd class="mono">{{ candidate.mass_kg == null ? '–' : `${candidate.mass_kg.toFixed(1)} kg` }}</dd>
        </div>
        <div v-if="candidate.tuned" class="tuned">
          <dt>tuned</dt>
          <dd class="mono" :class="{ doubt: candidate.tuned !== 'inside' }">{{ candidate.favours }}</dd>
        </div>
        <div v-else>
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
      <div class="score">
        <template v-if="!candidate.hard">
          <span class="mono total">{{ candidate.score_percent?.toFixed(0) }}</span>
          <span class="bar" role="img" :aria-label="`score ${candidate.score_percent?.toFixed(0)} of 100`">
            <span
              v-for="k in criteria"
              :key="k.name"
              :class="`part criterion-${k.name}`"
              :style="{ width: `${candidate.score_parts[k.name] ?? 0}%` }"
              :title="`${k.label}: ${candidate.score_parts[k.name]?.toFixed(0)}`"
            />
          </span>
        </template>
        <span class="narrow suits" :class="suits.tone">{{ suits.words }}</span>
      </div>
      <ObjectionList v-if="on" :candidate="candidate" :currency="currency" />
    </template>
  </li>
</template>

<style scoped>
.candidate {
  display: grid;
  grid-template-columns: 22px minmax(140px, 1fr) 160px minmax(0, 290px) 118px;
  gap: 2px 14px;
  align-items: center;
  padding: 7px 8px;
  border-bottom: 1px solid var(--hair);
  cursor: pointer;
}
.folded {
  grid-column: 2 / -1;
  display: flex;
  gap: 4px 12px;
  align-items: baseline;
  min-width: 0;
  margin: 0;
  white-space: nowrap;
}
.folded .harm {
  overflow: hidden;
  text-overflow: ellipsis;
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
  grid-template-columns: minmax(0, 5fr) minmax(0, 4fr);
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
.suits {
  grid-column: 1 / -1;
}
.suits.dye {
  color: var(--dye);
}
.tuned {
  grid-column: 1 / -1;
}
@media (max-width: 1000px) {
  .candidate {
    grid-template-columns: 22px minmax(0, 1fr) 160px;
  }
  .candidate dl,
  .candidate .score {
    grid-column: 2 / -1;
  }
}
</style>
