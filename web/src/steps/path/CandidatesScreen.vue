<script setup lang="ts">
/** Candidates for a place of the air path, side by side: what each gains and costs, and why it stands there. */
import Button from 'primevue/button'
import { useAsyncState } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, problemIn, told, type Schemas } from '@/api/client'
import { useSheet } from '@/api/sheet'
import { useJob } from '@/frame/job'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import { useSession } from '@/frame/session'
import Margin from '@/ui/Margin.vue'
import NotShown from '@/ui/NotShown.vue'
import Screen from '@/ui/Screen.vue'
import { wantParts } from '@/shelf/wanting'
import CandidateRow from './CandidateRow.vue'
import { MOST_WEIGHT, type Weights } from './criteria'
import WeightBar from './WeightBar.vue'

type Candidate = Schemas['Candidate']
const { id: jobId } = useJob()
const { units, personId } = useSession()
const route = useRoute()
const router = useRouter()
const named = (word: string) => {
  const value = route.query[word]
  return typeof value === 'string' ? value : undefined
}
const kind = ref(named('kind'))
/** The build that it is chosen for: the one that was looked at, else the latest. */
const build = named('build')
const marked = ref(0)
const weights = ref<Weights>({})
const refusal = ref('')
/** The criterion whose weight the arrows change. */
const chosen = ref('gain')
const { sheet, failure, load } = useSheet(
  () =>
    told(
      api.GET('/api/jobs/{job_id}/candidates', {
        params: { path: { job_id: jobId }, query: { units: units.value, kind: kind.value, build } },
      }),
    ),
  [units, kind],
)
/** Their order under weights that were moved, as the server says it. */
const moving = useAsyncState(askOrder, undefined as Schemas['Rank'][] | undefined, {
  immediate: false,
  resetOnExecute: false,
  throwError: true,
  onError: () => undefined,
})
const order = moving.state

watch(sheet, (found) => {
  weights.value = Object.fromEntries((found?.criteria ?? []).map((c) => [c.name, c.weight]))
  order.value = undefined
  marked.value = 0
})

function askOrder() {
  const query = { kind: sheet.value?.kind, build: sheet.value?.build_id, ...weights.value }
  return told(api.GET('/api/jobs/{job_id}/candidates/order', { params: { path: { job_id: jobId }, query } }))
}

/** Rows in their order; those with something hard against them last. */
const rows = computed<Candidate[]>(() => {
  const all = sheet.value?.candidates ?? []
  if (!order.value) return all
  const byId = new Map(all.map((c) => [c.part_id, c]))
  const open = order.value.flatMap(({ part_id, ...rank }) => {
    const c = byId.get(part_id)
    return c ? [{ ...c, ...rank }] : []
  })
  return [...open, ...all.filter((c) => c.hard)]
})
const current = computed(() => rows.value[marked.value])
const moved = computed(() => !!sheet.value?.criteria.some((c) => weights.value[c.name] !== c.weight))
const shared = computed(() => {
  const all = rows.value.flatMap((c) => c.curve.flatMap((p) => [p.low_percent ?? 0, p.high_percent ?? 0]))
  return { low: Math.min(-0.1, ...all), high: Math.max(0.2, ...all) }
})

async function tried(work: () => Promise<unknown>): Promise<void> {
  try {
    await work()
    refusal.value = ''
  } catch (error) {
    refusal.value = problemIn(error, 'Not saved. Try again.').detail
  }
}

async function weigh(name: string, by: number): Promise<void> {
  const to = Math.min(MOST_WEIGHT, Math.max(0, (weights.value[name] ?? 0) + by))
  const next = { ...weights.value, [name]: to }
  if (!Object.values(next).some((w) => w > 0)) return
  weights.value = next
  await tried(() => moving.execute())
}

const keepWeights = () =>
  tried(async () => {
    const view = await told(api.GET('/api/settings/path'))
    const settings = { ...view.settings, weights: { ...view.settings.weights, ...weights.value } }
    await told(api.PATCH('/api/settings/path', { body: { version: view.version, settings } }))
    await load()
  })

async function move(by: number): Promise<void> {
  marked.value = Math.min(rows.value.length - 1, Math.max(0, marked.value + by))
  await nextTick()
  document.querySelector('.candidate.on')?.scrollIntoView({ block: 'nearest' })
}
function tryOut(): void {
  if (current.value && !current.value.there_now)
    void router.push(`/jobs/${jobId}/path?build=${sheet.value?.build_id ?? ''}&try=${current.value.state_id}`)
}
const sets = computed(() => `/jobs/${jobId}/sets?build=${sheet.value?.build_id ?? ''}`)
function turnKind(): void {
  const kinds = sheet.value?.kinds ?? []
  kind.value = kinds[(kinds.indexOf(sheet.value?.kind ?? '') + 1) % kinds.length]
}

const want = () =>
  tried(async () => {
    const c = current.value
    if (c && !c.there_now) await wantParts(personId.value, jobId, [c])
  })

useKeys([
  { key: 'ArrowDown', says: 'next candidate', run: () => void move(1) },
  { key: 'ArrowUp', says: 'previous candidate', run: () => void move(-1) },
  { key: 't', says: 'try it as a what-if', run: tryOut },
  { key: 'v', says: 'next part type', run: turnKind },
  { key: 'o', says: 'put it on the order list', run: () => void want() },
  { key: 's', says: 'sets of parts', run: () => void router.push(sets.value) },
  { key: 'w', says: 'save priorities', run: () => void keepWeights() },
  { key: 'ArrowLeft', says: 'lower the chosen priority', run: () => void weigh(chosen.value, -1) },
  { key: 'ArrowRight', says: 'raise the chosen priority', run: () => void weigh(chosen.value, 1) },
  ...Array.from({ length: 6 }, (_, i) => ({
    key: `${i + 1}`,
    says: `choose priority ${i + 1}`,
    run: () => (chosen.value = sheet.value?.criteria[i]?.name ?? chosen.value),
  })),
])
</script>

<template>
  <Screen v-if="sheet">
    <header>
      <div class="kinds" role="group" aria-label="Place in the air path">
        <button
          v-for="k in sheet.kinds"
          :key="k"
          type="button"
          :class="{ on: k === sheet.kind }"
          @click="kind = k"
        >
          {{ k }}
        </button>
        <KeyCap k="V" />
      </div>
      <p class="quiet narrow">
        Fitted now: {{ sheet.now
        }}{{ sheet.now_flow ? `, ${sheet.now_flow.text} ${sheet.now_flow.unit}` : '' }} · build
        {{ sheet.build }} · rpm band {{ sheet.band
        }}{{ sheet.budget != null ? ` · budget ${sheet.budget.toFixed(0)} ${sheet.currency}` : '' }}
      </p>
    </header>
    <WeightBar
      :criteria="sheet.criteria"
      :weights="weights"
      :chosen="chosen"
      :moved="moved"
      @weigh="(name, by) => ((chosen = name), weigh(name, by))"
      @keep="keepWeights"
    />
    <ol class="rows" aria-label="Candidates">
      <CandidateRow
        v-for="(c, i) in rows"
        :key="c.part_id"
        :candidate="c"
        :rank="i + 1"
        :on="i === marked"
        :shared="shared"
        :band="[sheet.band_low_rpm, sheet.band_high_rpm]"
        :currency="sheet.currency"
        :criteria="sheet.criteria"
        @click="marked = i"
      />
    </ol>
    <p v-if="!rows.length" class="quiet">
      No {{ sheet.kind }} on the shelf. <RouterLink to="/shelf">Add one</RouterLink> with bore and price; flow
      it when you can.
    </p>
    <p class="doing">
      <Button v-if="current && !current.there_now" size="small" @click="tryOut"
        >Try {{ current.name }} as a what-if <KeyCap k="T"
      /></Button>
      <Button v-if="current && !current.there_now" size="small" severity="secondary" @click="want"
        >Order list <KeyCap k="O"
      /></Button>
      <Button as="router-link" :to="sets" size="small" severity="secondary"
        >Sets of parts <KeyCap k="S"
      /></Button>
      <span class="quiet narrow"
        >Gains are estimates; a pull decides. Three pulls of each show {{ sheet.shown_percent.toFixed(1) }} %
        or more. Missing data scores nothing.</span
      >
    </p>
    <p v-if="failure || refusal" class="harm" role="alert">{{ failure || refusal }}</p>
    <template #margin><Margin title="Why" :sentences="sheet.margin" /></template>
  </Screen>
  <NotShown v-else :why="failure" />
</template>

<style scoped>
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
.rows {
  list-style: none;
  margin: 0;
  padding: 0;
}
.doing {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 16px;
  padding-top: 10px;
}
</style>
