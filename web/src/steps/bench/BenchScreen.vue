<script setup lang="ts">
/** The bench: the figure being taken large, the ladder of runners, what the figures say. All of it by key. */
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, problemIn, problemOf, told, whileReachable, type Problem } from '@/api/client'
import { flush, useOutbox } from '@/api/outbox'
import { useSheet } from '@/api/sheet'
import Ladder from '@/charts/Ladder.vue'
import { useJob } from '@/frame/job'
import { useKeys } from '@/frame/keys'
import { useSession } from '@/frame/session'
import type { LiveState } from '@/taking/live'
import { toggleSound } from '@/taking/sound'
import TakePanel from '@/taking/TakePanel.vue'
import { useTaking } from '@/taking/useTaking'
import { forgetDraft, useDraft } from '@/ui/draft'
import { figure } from '@/ui/figures'
import Margin from '@/ui/Margin.vue'
import NotShown from '@/ui/NotShown.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import Screen from '@/ui/Screen.vue'
import BenchAsks from './BenchAsks.vue'
import BenchForm from './BenchForm.vue'
import BenchKeys from './BenchKeys.vue'
import { useCapture } from './capture'
import { useChecks } from './checks'
import ReadingList from './ReadingList.vue'
import type { SetupBody } from './setup'
import SetupCard from './SetupCard.vue'
import SetupForm from './SetupForm.vue'
import { useTable } from './table'
import { useBenchMode } from './useBenchMode'
import { useBenchOnScreen } from './useBenchOnScreen'

const { id: jobId, job, reload: reloadJob, changed } = useJob()
const { units, personId, shop, wantedGain } = useSession()
const { onSent, writes } = useOutbox()
const router = useRouter()
const { sheet, failure, load, loaded } = useSheet(
  () =>
    told(
      api.GET('/api/jobs/{job_id}/bench', {
        params: {
          path: { job_id: jobId },
          query: { units: units.value, wanted_percent: wantedGain.value },
        },
      }),
    ),
  [units, wantedGain, changed],
)
const capture = useCapture(jobId, sheet)
const { side, active, setupProblem, waiting, rounds } = capture
useBenchOnScreen(job, sheet, side, active)
const setupOpen = ref(false)
const benchOpen = ref(false)
const partsOpen = ref(false)
const note = ref<Problem>()
const table = ref<HTMLInputElement>()

const rung = computed(() => sheet.value?.rungs.find((r) => r.cylinder === active.value))
const readings = computed(() => rung.value?.[side.value].readings ?? [])
const last = computed(() => readings.value.findLast((r) => !r.struck))
const bench = computed(() => {
  const id = sheet.value?.setup?.bench_id
  return shop.value?.benches.find((b) => b.id === id) ?? shop.value?.benches[0]
})
const checks = useChecks(jobId, capture.ensureBench, capture.ensureSetup)
const { chosen: chosenCheck } = checks
const asking = useBenchMode(checks, capture.cut, () => taking.focusEntry())
const { mode, leaveQuestion, leaveCheck } = asking
const taking = useTaking({
  draft: `bench.${jobId}`,
  bench,
  isHere: (write) => capture.isOf(write, active.value),
  hindered: asking.hinders,
  keep,
  answered: () => (active.value = capture.next(active.value)),
  step: (by) => choose(Math.min(sheet.value?.rungs.length ?? 1, Math.max(1, active.value + by))),
  leave: () => asking.leave() || forgetNote(),
})
const { typed, problem, focusEntry } = taking
const { takeable, state: liveState, restart } = taking.live
const pastes = useTable(jobId, sheet, capture, note, refresh)
const { paste, keepFirst, read: readTable, block, keepBlock } = pastes
const live = computed(() => (typed.value ? (figure(typed.value) ?? undefined) : takeable.value?.mean?.value))
const following = computed(() => capture.next(active.value))
const words = computed(() => {
  const on = chosenCheck.value || following.value === active.value ? '' : `, next: runner ${following.value}`
  if (problem.value?.problem?.offers?.length) return 'Answer the question first'
  if (typed.value.trim()) return `Save ${typed.value.trim()}${on}`
  if (takeable.value) return `Take ${takeable.value.mean?.text ?? 'what it shows'}${on}`
  if (liveState.value?.state === 'speaking') return 'Wait for samples, or type it'
  return chosenCheck.value ? 'Type the bench reading' : `Type the reading for runner ${active.value}`
})

async function refresh(): Promise<void> {
  await whileReachable(() => Promise.all([load(), reloadJob()]))
}

let pendingRefresh: ReturnType<typeof setTimeout> | undefined
const stop = onSent((write) => {
  if (write.about.job !== jobId) return
  clearTimeout(pendingRefresh)
  pendingRefresh = setTimeout(() => void refresh(), 30)
})
onBeforeUnmount(stop)
/** Where a figure was being typed: a draft goes back to its own runner and side. */
const standing = ref({ side: side.value, runner: 0 })
useDraft(`bench.${jobId}.place`, standing)
watch([typed, active, side], () => {
  standing.value = typed.value
    ? { side: side.value, runner: active.value }
    : { side: 'before' as const, runner: 0 }
})
onMounted(async () => {
  const { side: draftSide, runner } = standing.value
  const draft = typed.value
  await loaded
  if (sheet.value?.after_state_id) side.value = 'after'
  active.value = capture.next(sheet.value?.rungs.length ?? 0)
  if (draft && runner) {
    side.value = draftSide
    active.value = runner
  }
  focusEntry()
})

/** A question about the rung just left brings it back, unless the next figure is being typed already. */
watch(writes, (all) => {
  const asked = all.find((w) => w.problem && w.problem.code !== 'failed' && capture.isOfSide(w))
  if (!asked || typed.value || problem.value) return
  active.value = asked.about.cylinder ?? active.value
})
watch(setupProblem, (detail) => {
  if (detail) setupOpen.value = true
})

function choose(cylinder: number): void {
  active.value = cylinder
  leaveQuestion()
}

async function keep(text: string, taken: LiveState | undefined): Promise<void> {
  if (!personId.value) {
    typed.value = text
    note.value = problemOf('Pick your name first (top right). Every reading is saved under a name.')
    return
  }
  note.value = undefined
  if (mode.value === 'check') return takeCheck(text, taken)
  if (!taken?.mean && !text) return
  const at = active.value
  const sending = capture.keep(at, text, { taken })
  active.value = capture.next(at)
  focusEntry()
  await sending
}

async function takeCheck(text: string, taken: LiveState | undefined): Promise<void> {
  await checks.take(text, sheet.value?.unit_code ?? 'cfm', taken)
  if (checks.problem.value) typed.value = text
  else leaveQuestion()
}

function forgetNote(): boolean {
  if (problem.value || !note.value) return false
  note.value = undefined
  return true
}

/** A mis-trigger: the figure that was taken last is struck out, and its runner is the next again. */
async function strikeLast(): Promise<void> {
  await flush()
  await refresh()
  const newest = capture.newest()
  if (!newest) return
  await capture.strike(newest.reading.id, 'mis-trigger')
  active.value = newest.at
  restart()
  focusEntry()
}

/** The last set-up noted again: for a new job, or after everything was taken off. */
async function repeatSetup(): Promise<void> {
  if (!sheet.value?.previous) return void (setupOpen.value = true)
  await keepSetup({ bench_id: sheet.value.previous.bench_id })
  note.value = problemOf('Last set-up repeated. Press U to change it.')
}

async function strike(why: string): Promise<void> {
  if (!last.value || !why.trim()) return
  leaveQuestion()
  await capture.strike(last.value.id, why)
}

async function benchKept(): Promise<void> {
  benchOpen.value = false
  await load()
  focusEntry()
}

function toggleSide(): void {
  if (side.value === 'after') side.value = 'before'
  else if (sheet.value?.after_state_id) side.value = 'after'
  else mode.value = 'cut'
  if (mode.value === 'read') active.value = capture.next(sheet.value?.rungs.length ?? 0)
  focusEntry()
}

async function keepSetup(form: Partial<SetupBody>): Promise<void> {
  await capture.keepSetup(form)
  if (!setupProblem.value) {
    forgetDraft(`setup.${jobId}`)
    setupOpen.value = false
    await whileReachable(load)
    focusEntry()
  }
}

/** A figure that was only just kept may still be on its way. */
async function startStrike(): Promise<void> {
  if (!last.value) {
    await flush()
    await refresh()
  }
  if (last.value) mode.value = 'strike'
  else note.value = problemOf(`Runner ${active.value} has no ${side.value} reading to strike out.`)
}

const keepPasted = (figures: string[][]) => (focusEntry(), keepBlock(figures))

async function toggleReference(): Promise<void> {
  try {
    await capture.chooseReference(job.value?.version ?? 0)
  } catch (error) {
    note.value = problemIn(error, 'Try again.')
  }
  await refresh()
  focusEntry()
}

const print = () => void router.push(`/jobs/${jobId}/handover?print=1`)

useKeys([
  { key: 'a', says: 'before/after (asks for the stage)', run: toggleSide },
  { key: 'x', says: "strike out this runner's last reading", run: () => void startStrike() },
  { key: 'z', says: 'strike out the last reading taken (mis-trigger)', run: () => void strikeLast() },
  { key: 'u', says: 'change the set-up', run: () => (setupOpen.value = true) },
  { key: 'r', says: 'repeat last set-up', run: () => void repeatSetup() },
  { key: 'c', says: 'bench checks: zero, leak test, plate', run: () => (mode.value = 'check') },
  { key: 'b', says: 'bench settings: meter, ranges, connection', run: () => (benchOpen.value = true) },
  {
    key: 't',
    says: 'tests: sweeps, lift curves, copies, maps',
    run: () => void router.push(`/jobs/${jobId}/tests`),
  },
  {
    key: 'o',
    says: 'where the ± comes from',
    run: () => (partsOpen.value = !partsOpen.value),
  },
  { key: 'n', says: 'read one reference runner, or all', run: () => void toggleReference() },
  { key: 'q', says: 'rounds: read each runner several times', run: () => (mode.value = 'rounds') },
  { key: 'w', says: 'target gain and refits needed', run: () => (mode.value = 'gain') },
  { key: 's', says: 'sound when a reading is taken', run: toggleSound },
  { key: 'i', says: 'import a table (CSV or TSV)', run: () => table.value?.click() },
  { key: 'p', says: 'print the sheet', run: print },
])
</script>

<template>
  <Screen v-if="sheet">
    <template #take>
      <div class="which">
        <h2>{{ chosenCheck ? `Check: ${chosenCheck.label}` : `Runner ${active}` }}</h2>
        <span v-if="!chosenCheck" class="narrow" :class="side === 'after' ? 'cut-word' : 'quiet'">
          <b v-if="rounds.words.value" class="round">{{ rounds.words.value }}</b>
          {{ side === 'after' ? `after · ${sheet.after_label ?? 'cut'}` : `before · ${sheet.before_label}` }}
        </span>
      </div>
      <TakePanel
        v-if="!setupOpen && !benchOpen"
        :taking="taking"
        :label="
          chosenCheck ? `${chosenCheck.label}, ${sheet.unit}` : `Flow of runner ${active}, ${sheet.unit}`
        "
        :unit="sheet.unit"
        :placeholder="rung?.[side].mean?.text ?? '0.0'"
        :words="words"
        :asking="!!block || (mode !== 'read' && !chosenCheck)"
        :still="['zero', 'leak'].includes(chosenCheck?.kind ?? '')"
        @paste="paste"
      >
        <template v-if="checks.problem.value?.problem" #first>
          <ProblemNote :problem="checks.problem.value.problem" give-up="cancel" @give-up="leaveCheck" />
        </template>
        <ProblemNote
          v-if="note && !problem && !checks.problem.value"
          :problem="note"
          give-up="cancel"
          @choose="keepFirst"
          @give-up="note = undefined"
        />
        <BenchAsks
          :asking="asking"
          :checks="checks"
          :rounds="rounds"
          :table="pastes"
          :figure="last?.typed ?? ''"
          :cylinder="active"
          :live="!!takeable"
          :read="sheet.rungs.filter((r) => r[side].mean).map((r) => r.cylinder)"
          @strike="strike"
          @pasted="keepPasted"
          @planned="active = capture.next(0)"
        />
      </TakePanel>
      <SetupForm
        v-if="setupOpen"
        :setup="sheet.setup ?? sheet.previous"
        :problem="setupProblem"
        :place="jobId"
        @keep="keepSetup"
        @leave="setupOpen = false"
      />
      <BenchForm v-else-if="benchOpen && bench" :bench="bench" @kept="benchKept" @leave="benchOpen = false" />
      <SetupCard v-else :setup="sheet.setup" :checks="sheet.checks" :stated-at="sheet.stated_at" />
      <ReadingList
        v-if="readings.length"
        v-model:parts="partsOpen"
        :readings="readings"
        :known="rung?.[side].known"
        :unit="sheet.unit"
      />
    </template>
    <div>
      <Ladder
        :rungs="sheet.rungs"
        :mean="sheet.mean"
        :banks="sheet.banks"
        :band="sheet.band"
        :unit="sheet.unit"
        :basis="sheet.basis"
        :active="active"
        :reference="sheet.reference_runner"
        :live="live"
        :waiting="waiting"
        :before-words="`before, ${sheet.before_label}`"
        :after-words="sheet.after_label ? `after, ${sheet.after_label}` : ''"
        @choose="choose"
      />
      <BenchKeys
        :job-id="jobId"
        :side="side"
        :reference="sheet.reference_runner"
        :active="active"
        @reference="toggleReference"
        @side="toggleSide"
        @strike="startStrike"
        @setup="setupOpen = true"
        @again="repeatSetup"
        @check="mode = 'check'"
        @bench="benchOpen = true"
        @gain="mode = 'gain'"
        @rounds="mode = 'rounds'"
        @table="table?.click()"
        @print="print"
      />
    </div>
    <input
      ref="table"
      type="file"
      class="hidden-to-eyes"
      accept=".csv,.tsv,.txt"
      tabindex="-1"
      aria-label="Table of figures"
      @change="readTable"
    />
    <template #margin><Margin title="Bench notes" :sentences="sheet.margin" /></template>
  </Screen>
  <NotShown v-else :why="failure" />
</template>

<style scoped>
.which {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
}
.round {
  padding-right: 8px;
}
.which h2 {
  font-size: 22px;
}
.cut-word {
  color: var(--cut);
  font-weight: 600;
}
</style>
