<script setup lang="ts">
/** Tests of a job, making a new one, and what single items of the set-ups do. */
import Button from 'primevue/button'
import { computed, nextTick, ref, watch } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { api, newId, problemIn, told } from '@/api/client'
import { useSheet } from '@/api/sheet'
import ChoiceField from '@/ui/ChoiceField.vue'
import { useDraft } from '@/ui/draft'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import { useSession } from '@/frame/session'
import TextField from '@/ui/TextField.vue'
import { useJob } from '@/frame/job'
import { flush } from '@/api/outbox'
import { useCapture } from '@/steps/bench/capture'
import EffectList from './EffectList.vue'
import { seriesFor, type SeriesForm } from './series'
import SeriesFields from './SeriesFields.vue'
import NotShown from '@/ui/NotShown.vue'
import { day } from '@/ui/words'

const { id: jobId, changed } = useJob()
const { units, personId } = useSession()
const router = useRouter()
const { sheet: asked, failure } = useSheet(ask, [units, changed])
const cards = computed(() => asked.value?.cards)
const choices = computed(() => asked.value?.choices)
const sheet = computed(() => asked.value?.sheet)
const effects = computed(() => asked.value?.effects ?? [])
const capture = useCapture(jobId, sheet)
const kind = ref('opening')
const target = ref(0)
const places = ref('')
const clocks = ref('')
const bore = ref('')
const series = ref<SeriesForm[]>([])
const refusal = ref('')

const chosen = computed(() => choices.value?.kinds.find((k) => k.kind === kind.value))
const flowed = computed(() => choices.value?.targets[target.value])
const axis = computed(() => flowed.value?.axes[kind.value])
const targets = computed(() => (choices.value?.targets ?? []).map((t, i) => ({ label: t.label, value: i })))

async function ask() {
  const path = { job_id: jobId }
  const query = { units: units.value }
  const [cards, choices, sheet, effects] = await Promise.all([
    told(api.GET('/api/jobs/{job_id}/tests', { params: { path } })),
    told(api.GET('/api/jobs/{job_id}/test-choices', { params: { path } })),
    told(api.GET('/api/jobs/{job_id}/bench', { params: { path, query } })),
    told(api.GET('/api/jobs/{job_id}/bench/effects', { params: { path, query } })),
  ])
  return { cards, choices, sheet, effects }
}
/** What was changed of the usual test is kept in this browser until it is made. */
const draft = ref<ReturnType<typeof written>>()
useDraft(`new-test.${jobId}`, draft)
const written = () => ({
  kind: kind.value,
  target: target.value,
  places: places.value,
  clocks: clocks.value,
  bore: bore.value,
  series: series.value,
})
const usual = () => ({
  ...written(),
  places: axis.value?.usual.join(', ') ?? '',
  clocks: chosen.value?.clocks.join(', ') ?? '',
  bore: '',
  series: seriesFor(kind.value, flowed.value?.states ?? []),
})
function fill({ places: at, clocks: round, bore: wide, series: rows }: ReturnType<typeof written>): void {
  places.value = at
  clocks.value = round
  bore.value = wide
  series.value = rows
}
/** Once there is something to choose from: what others save leaves the form alone. */
const begin = watch(
  () => choices.value !== undefined,
  async () => {
    begin()
    const kept = draft.value
    if (kept) [kind.value, target.value] = [kept.kind, kept.target]
    await nextTick()
    fill(kept ?? usual())
  },
)
watch([kind, target], () => fill(usual()))
watch(
  [places, clocks, bore, series],
  () => {
    const changed = JSON.stringify(written()) !== JSON.stringify(usual())
    draft.value = changed ? written() : undefined
  },
  { deep: true },
)

/** Figures of a list, with whatever unit each has: a comma without a blank behind it is a decimal one where semicolons or
 * other commas part them. */
function listOf(text: string): string[] {
  const parted = [/;/, /,\s/, /[,\s]/].find((one) => one.test(text)) ?? /;/
  return text
    .split(new RegExp(parted, 'g'))
    .map((word) => word.trim())
    .filter(Boolean)
}
const BORES: Record<string, string> = {
  swirl: 'Bore of the swirl meter',
  copy: 'Bore of the swirl meter, to read swirl too',
  lift: 'Valve diameter, for the flow coefficient',
}

/** The set-up that the bench would read in: without one noted, the plainest. */
async function notedSetup(): Promise<string> {
  const setup = capture.ensureSetup()
  await flush()
  return setup
}

async function make(): Promise<void> {
  if (!flowed.value || !sheet.value) return
  const id = newId()
  try {
    await told(
      api.PUT('/api/tests/{plan_id}', {
        params: { path: { plan_id: id } },
        body: {
          person_id: personId.value,
          job_id: jobId,
          kind: kind.value,
          setup_id: await notedSetup(),
          element_kind: flowed.value.element_kind,
          cylinder: flowed.value.cylinder,
          series: series.value.map(({ label, part_state_id, changes }) => ({
            label,
            part_state_id,
            changes,
          })),
          places: axis.value ? listOf(places.value) : [],
          clocks: chosen.value?.takes_clocks ? listOf(clocks.value) : [],
          bore: chosen.value?.takes_bore ? bore.value : '',
        },
      }),
    )
  } catch (error) {
    refusal.value = problemIn(error, 'Try again.').detail
    return
  }
  draft.value = undefined
  await router.push(`/jobs/${jobId}/tests/${id}`)
}

useKeys([{ key: 'b', says: 'back to the bench', run: () => void router.push(`/jobs/${jobId}/bench`) }])
</script>

<template>
  <div v-if="cards && choices" class="tests">
    <section aria-label="Tests">
      <h2>Bench tests</h2>
      <ul v-if="cards.length" class="cards">
        <li v-for="c in cards" :key="c.id">
          <RouterLink :to="`/jobs/${jobId}/tests/${c.id}`">{{ c.title }}</RouterLink>
          <span class="narrow quiet">{{ c.target }} · {{ day(c.read_at ?? c.made_at) }}</span>
          <span class="mono" :class="{ open: c.read < c.of }">{{ c.read }} of {{ c.of }}</span>
        </li>
      </ul>
      <p v-else class="quiet">No tests yet: throttle sweep, lift curve, or A-B-B-A copy check.</p>
      <EffectList :effects="effects" />
      <p class="narrow">
        <RouterLink :to="`/jobs/${jobId}/bench`"><KeyCap k="B" /> back to the bench</RouterLink>
      </p>
    </section>
    <form class="make" aria-label="New test" @submit.prevent="make">
      <h2>New test</h2>
      <ChoiceField v-model="kind" label="Kind" :options="choices.kinds" shown="title" kept="kind" />
      <ChoiceField v-model="target" label="Component" :options="targets" />
      <TextField v-if="axis" v-model="places" :label="`${axis.name}, ${axis.unit}, in order`" wide />
      <TextField
        v-if="chosen?.takes_clocks"
        v-model="clocks"
        :label="
          kind === 'copy' ? 'Clock positions, to map velocity too' : 'Clock positions round the opening'
        "
        wide
      />
      <TextField
        v-if="chosen?.takes_bore"
        v-model="bore"
        :label="BORES[kind] ?? ''"
        wide
        placeholder="84 mm"
      />
      <SeriesFields v-model="series" :states="flowed?.states ?? []" class="wide" />
      <p v-if="refusal" class="harm wide" role="alert">{{ refusal }}</p>
      <Button type="submit" class="wide">Start this test <KeyCap k="Enter" /></Button>
      <p class="quiet narrow wide">
        Uses the saved bench set-up{{ sheet?.setup ? '' : ' (none yet: 28 inH2O, no radius, no throttle)' }}.
      </p>
    </form>
  </div>
  <NotShown v-else :why="failure" />
</template>

<style scoped>
.tests {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 600px;
  gap: 36px;
  padding: 20px 28px;
  overflow-y: auto;
}
section {
  display: grid;
  align-content: start;
  gap: 14px;
}
.cards {
  margin: 0;
  padding: 0;
  list-style: none;
}
.cards li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 150px 84px;
  gap: 12px;
  align-items: baseline;
  padding: 8px 0;
  border-top: 1px solid var(--hair);
}
.cards a {
  font-weight: 600;
  font-size: 18px;
}
.cards .open {
  color: var(--dye);
  font-weight: 600;
}
.make {
  display: grid;
  grid-template-columns: 1fr 1fr;
  align-content: start;
  gap: 10px 14px;
}
.make h2,
.wide {
  grid-column: 1 / -1;
}
@media (max-width: 1000px) {
  .tests {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
