<script setup lang="ts">
/** Candidates for one place of the air path: each with what it gains, what stands against it, and why it stands there. */
import Button from 'primevue/button'
import { computed, nextTick, onMounted, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { fill, get, patch, Refused, type Schemas } from '@/api/client'
import GainStrip from '@/charts/GainStrip.vue'
import KeyCap from '@/shared/KeyCap.vue'
import { useKeys } from '@/shared/keys'
import { useLit } from '@/shared/lit'
import Margin from '@/shared/Margin.vue'
import { useSession } from '@/shared/session'
import { useJob } from '../job'
import ObjectionList from './ObjectionList.vue'

type Candidate = Schemas['Candidate']
const { id: jobId } = useJob()
const { units } = useSession()
const route = useRoute()
const router = useRouter()
const lit = useLit()
const sheet = shallowRef<Schemas['CandidateSheet']>()
const kind = ref(typeof route.query['kind'] === 'string' ? route.query['kind'] : '')
/** The build that it is chosen for: the one that was looked at, else the latest. */
const build = typeof route.query['build'] === 'string' ? route.query['build'] : ''
const marked = ref(0)
const weights = ref<Record<string, number>>({})
const order = shallowRef<Schemas['Standing'][]>()
const failure = ref('')
const CRITERIA = [
  { name: 'gain', label: 'air gained' },
  { name: 'price', label: 'price' },
  { name: 'work', label: 'work to fit' },
  { name: 'lead_time', label: 'wait' },
  { name: 'mass', label: 'mass' },
]
const MOST_WEIGHT = 9

async function load(): Promise<void> {
  try {
    const of = (kind.value ? `&kind=${kind.value}` : '') + (build ? `&build=${build}` : '')
    await fill(sheet, get(`/api/jobs/${jobId}/candidates?units=${units.value}${of}`))
    kind.value = sheet.value?.kind ?? ''
    weights.value = { ...sheet.value?.weights }
    order.value = undefined
    marked.value = 0
    failure.value = ''
  } catch (error) {
    failure.value = error instanceof Refused ? error.problem.detail : 'Elvarn does not answer. Is it running?'
  }
}
onMounted(load)
watch(units, load)

function choose(next: string): void {
  kind.value = next
  void load()
}

/** Rows in their order: under weights that were moved, as the server says; those with something hard against them last. */
const rows = computed<Candidate[]>(() => {
  const all = sheet.value?.candidates ?? []
  if (!order.value) return all
  const byId = new Map(all.map((c) => [c.part_id, c]))
  const names = CRITERIA_ORDER
  const open = order.value.flatMap((s) => {
    const c = byId.get(s.part_id)
    if (!c) return []
    const score_parts = Object.fromEntries(names.map((n, i) => [n, s.parts[i] ?? 0]))
    return [{ ...c, score_percent: s.score_percent, pareto: s.pareto, score_parts }]
  })
  return [...open, ...all.filter((c) => c.hard)]
})
const CRITERIA_ORDER = ['gain', 'price', 'lead_time', 'mass', 'work']
const current = computed(() => rows.value[marked.value])
const moved = computed(
  () => sheet.value && CRITERIA.some((c) => weights.value[c.name] !== sheet.value?.weights[c.name]),
)
const shared = computed(() => {
  const all = rows.value.flatMap((c) => c.curve.flatMap((p) => [p.low_percent ?? 0, p.high_percent ?? 0]))
  return { low: Math.min(-0.1, ...all), high: Math.max(0.2, ...all) }
})
const band = computed<[number, number]>(() => {
  const [low, high] = (sheet.value?.band ?? '0 to 1 rpm').split(' to ').map((w) => parseInt(w))
  return [low ?? 0, high ?? 1]
})

async function weigh(name: string, by: number): Promise<void> {
  const to = Math.min(MOST_WEIGHT, Math.max(0, (weights.value[name] ?? 0) + by))
  const next = { ...weights.value, [name]: to }
  if (!Object.values(next).some((w) => w > 0)) return
  weights.value = next
  const query = CRITERIA.map((c) => `${c.name}=${next[c.name] ?? 0}`).join('&')
  const of = `kind=${kind.value}&build=${sheet.value?.build_id ?? ''}`
  await fill(order, get(`/api/jobs/${jobId}/candidates/order?${of}&${query}`))
}

async function keepWeights(): Promise<void> {
  const view = await get<Schemas['SettingsView']>('/api/settings/path')
  try {
    const settings = { ...view.settings, weights: weights.value }
    await patch('/api/settings/path', { version: view.version, settings })
    await load()
  } catch (error) {
    failure.value = error instanceof Refused ? error.problem.detail : 'The weights were not kept. Try again.'
  }
}

async function move(by: number): Promise<void> {
  marked.value = Math.min(rows.value.length - 1, Math.max(0, marked.value + by))
  await nextTick()
  document.querySelector('.candidate.on')?.scrollIntoView({ block: 'nearest' })
}
function tryOut(): void {
  if (current.value)
    void router.push(`/jobs/${jobId}/path?build=${sheet.value?.build_id ?? ''}&try=${current.value.state_id}`)
}
function turnKind(): void {
  const kinds = sheet.value?.kinds ?? []
  choose(kinds[(kinds.indexOf(kind.value) + 1) % kinds.length] ?? '')
}

useKeys([
  { key: 'ArrowDown', says: 'next candidate', run: () => void move(1) },
  { key: 'ArrowUp', says: 'candidate before', run: () => void move(-1) },
  { key: 't', says: 'try it in the air path', run: tryOut },
  { key: 'v', says: 'next kind of part', run: turnKind },
  { key: 'w', says: 'keep the weights', run: () => void keepWeights() },
  ...CRITERIA.map((c, i) => ({
    key: `${i + 1}`,
    says: `more weight on ${c.label}, after ${MOST_WEIGHT} none`,
    run: () => void weigh(c.name, (weights.value[c.name] ?? 0) < MOST_WEIGHT ? 1 : -MOST_WEIGHT),
  })),
])

const span = (c: Candidate) => {
  if (c.gain_low_percent == null || c.gain_high_percent == null) return 'not known'
  const text = (v: number) => `${v < 0 ? '−' : ''}${Math.abs(v).toFixed(1)}`
  const [low, high] = [text(c.gain_low_percent), text(c.gain_high_percent)]
  return low === high ? `${high} %` : `${low} to ${high} %`
}
const minutes = (m: number) => (m ? `${m.toFixed(0)} min` : 'none')
</script>

<template>
  <div v-if="failure && !sheet" class="blank harm" role="alert">{{ failure }}</div>
  <div v-else-if="sheet" class="choice">
    <section class="top">
      <header>
        <div class="kinds" role="group" aria-label="Place in the air path">
          <button
            v-for="k in sheet.kinds"
            :key="k"
            type="button"
            :class="{ on: k === kind }"
            @click="choose(k)"
          >
            {{ k }}
          </button>
          <KeyCap k="V" />
        </div>
        <p class="quiet narrow">
          There now: {{ sheet.now
          }}{{ sheet.now_flow ? `, ${sheet.now_flow.text} ${sheet.now_flow.unit}` : '' }} · build
          {{ sheet.build }} · band {{ sheet.band
          }}{{ sheet.budget != null ? ` · budget ${sheet.budget.toFixed(0)} ${sheet.currency}` : '' }}
        </p>
      </header>
      <div class="weights" role="group" aria-label="What counts">
        <span class="narrow quiet">what counts</span>
        <div v-for="(c, i) in CRITERIA" :key="c.name" class="weight">
          <span class="narrow"><i :class="`swatch part-${i}`" />{{ c.label }}</span>
          <span class="line">
            <button type="button" :aria-label="`less weight on ${c.label}`" @click="weigh(c.name, -1)">
              −
            </button>
            <output class="mono">{{ weights[c.name] ?? 0 }}</output>
            <button type="button" :aria-label="`more weight on ${c.label}`" @click="weigh(c.name, 1)">
              +
            </button>
            <KeyCap :k="`${i + 1}`" />
          </span>
        </div>
        <Button v-if="moved" size="small" @click="keepWeights">Keep <KeyCap k="W" /></Button>
      </div>
      <ol class="rows" aria-label="Candidates">
        <li
          v-for="(c, i) in rows"
          :key="c.part_id"
          class="candidate"
          :class="{ on: i === marked, lit: lit === `candidate-${c.part_id}`, hard: c.hard }"
          @click="marked = i"
        >
          <span class="rank mono">{{ c.hard ? '×' : i + 1 }}</span>
          <div class="name">
            <strong>{{ c.name }}</strong>
            <span class="quiet narrow">
              {{ c.maker }}
              <template v-if="c.bore"> · bore {{ c.bore.text }} {{ c.bore.unit }}</template>
              <template v-else-if="c.advertised_bore">
                · {{ c.advertised_bore.text }} {{ c.advertised_bore.unit }} advertised</template
              >
            </span>
            <span v-if="c.flow" class="narrow" :class="{ guess: c.flow_grade !== 'measured' }">
              {{ c.flow.text }} {{ c.flow.unit
              }}{{
                c.flow_grade === 'measured'
                  ? ''
                  : c.flow_grade === 'rule'
                    ? ', by its maker’s bore'
                    : ', estimated'
              }}
            </span>
          </div>
          <GainStrip
            :points="c.curve"
            :low="shared.low"
            :high="shared.high"
            :band="band"
            :hard="c.hard"
            :label="`${c.name}: air gained over speed`"
          />
          <dl>
            <div>
              <dt>air</dt>
              <dd class="mono" :class="{ guess: c.gain_low_percent == null }">{{ span(c) }}</dd>
            </div>
            <div>
              <dt>price</dt>
              <dd class="mono" :class="{ doubt: c.over_budget }">
                {{ c.price == null ? '–' : `${c.price.toFixed(0)} ${sheet.currency}` }}
              </dd>
            </div>
            <div>
              <dt>work</dt>
              <dd class="mono">{{ minutes(c.work_minutes) }}</dd>
            </div>
            <div>
              <dt>wait</dt>
              <dd class="mono">{{ c.lead_days == null ? '–' : `${c.lead_days} d` }}</dd>
            </div>
            <div>
              <dt>mass</dt>
              <dd class="mono">{{ c.mass_kg == null ? '–' : `${c.mass_kg.toFixed(1)} kg` }}</dd>
            </div>
            <div>
              <dt>for 1 %</dt>
              <dd class="mono">
                {{
                  c.cost_per_percent == null
                    ? '–'
                    : `${Math.round(c.cost_per_percent / 10) * 10} ${sheet.currency}`
                }}
              </dd>
            </div>
          </dl>
          <div v-if="!c.hard" class="score">
            <span class="mono total">{{ c.score_percent?.toFixed(0) }}</span>
            <span class="bar" role="img" :aria-label="`score ${c.score_percent?.toFixed(0)} of 100`">
              <span
                v-for="(k, n) in CRITERIA"
                :key="k.name"
                :class="`part part-${n}`"
                :style="{ width: `${c.score_parts[k.name] ?? 0}%` }"
                :title="`${k.label}: ${c.score_parts[k.name]?.toFixed(0)}`"
              />
            </span>
            <span v-if="c.there_now" class="narrow pareto-line">stands there now</span>
            <span v-else-if="c.idle" class="narrow doubt pareto-line">gains nothing</span>
            <span v-else-if="c.pareto" class="narrow pareto" title="No other is better in everything"
              >◆ not beaten</span
            >
          </div>
          <div v-else class="score narrow harm">can't go on as it is</div>
          <ObjectionList
            v-if="i === marked || c.hard"
            :candidate="c"
            :whole="i === marked"
            :currency="sheet.currency"
          />
        </li>
      </ol>
      <p v-if="!rows.length" class="quiet">
        No {{ kind }} lies on the shelf. <RouterLink to="/shelf">Put some there</RouterLink>: what it is, its
        bore, its price; flow it when you can.
      </p>
      <p class="doing">
        <Button v-if="current" size="small" @click="tryOut"
          >Try {{ current.name }} in the path <KeyCap k="T"
        /></Button>
        <span class="quiet narrow"
          >Gains are bounds from the loss model: pulls decide. Scores weigh what is known; what nobody knows
          earns nothing.</span
        >
      </p>
      <p v-if="failure" class="harm" role="alert">{{ failure }}</p>
    </section>
    <Margin title="Why so" :sentences="sheet.margin" />
  </div>
</template>

<style scoped>
.choice {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 280px;
  min-height: 0;
}
.top {
  padding: 12px 24px 20px;
  overflow-y: auto;
}
.blank {
  padding: 24px;
}
.kinds {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 16px;
}
.kinds button {
  padding: 3px 2px;
  border: 0;
  border-bottom: 3px solid transparent;
  background: none;
  cursor: pointer;
  font-weight: 600;
}
.kinds button::first-letter {
  text-transform: uppercase;
}
.kinds .on {
  border-color: var(--dye);
  color: var(--dye);
}
.weights {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 4px 18px;
  padding: 6px 0;
  border-block: 1px solid var(--hair);
  margin-top: 6px;
}
.weight {
  display: grid;
}
.weight .line {
  display: flex;
  align-items: center;
  gap: 6px;
}
.weight button {
  width: 26px;
  height: 26px;
  border: 1px solid var(--hair);
  background: var(--sheet);
  cursor: pointer;
  line-height: 1;
}
.weight output {
  min-width: 12px;
  text-align: center;
}
.rows {
  list-style: none;
  margin: 0;
  padding: 0;
}
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
}
.swatch {
  display: inline-block;
  width: 10px;
  height: 10px;
  margin-right: 5px;
}
.part-0 {
  background: var(--cut);
}
.part-1 {
  background: var(--dye);
}
.part-2 {
  background: var(--quiet);
}
.part-3 {
  background: var(--dye);
  opacity: 0.55;
}
.part-4 {
  background: var(--quiet);
  opacity: 0.55;
}
.pareto,
.pareto-line {
  grid-column: 1 / -1;
}
.pareto {
  color: var(--dye);
}
.doing {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 16px;
  padding-top: 10px;
}
@media (max-width: 1000px) {
  .choice {
    grid-template-columns: minmax(0, 1fr);
  }
  .candidate {
    grid-template-columns: 22px minmax(0, 1fr) 190px;
  }
  .candidate dl,
  .candidate .score {
    grid-column: 2 / -1;
  }
}
</style>
