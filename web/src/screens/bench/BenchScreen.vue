<script setup lang="ts">
/** The bench: the figure being taken large, the ladder of runners, what the figures say. All of it by key. */
import Button from 'primevue/button'
import { computed, nextTick, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { fill, get, Refused, whileReachable, type Problem, type Schemas } from '@/api/client'
import { flush, useOutbox } from '@/api/outbox'
import Ladder from '@/charts/Ladder.vue'
import { figure } from '@/shared/figures'
import KeyCap from '@/shared/KeyCap.vue'
import { useKeys } from '@/shared/keys'
import Margin from '@/shared/Margin.vue'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useSession } from '@/shared/session'
import { tell, toggleSound } from '@/shared/sound'
import { useJob } from '../job'
import AskCheck from './AskCheck.vue'
import AskCut from './AskCut.vue'
import AskGain from './AskGain.vue'
import AskStrike from './AskStrike.vue'
import BenchKeys from './BenchKeys.vue'
import BenchForm from './BenchForm.vue'
import { useCapture } from './capture'
import { CHECKS, useChecks, type CheckKind } from './checks'
import FigureEntry from './FigureEntry.vue'
import { useLive, type LiveState } from './live'
import LiveStrip from './LiveStrip.vue'
import ReadingList from './ReadingList.vue'
import SetupCard from './SetupCard.vue'
import SetupForm from './SetupForm.vue'
import type { SetupBody } from './setup'
import { told, useTable } from './table'

const { id: jobId, job, reload: reloadJob } = useJob()
const { units, personId, shop, wantedGain } = useSession()
const { onSent, writes } = useOutbox()
const router = useRouter()
const sheet = shallowRef<Schemas['BenchSheet']>()
const capture = useCapture(jobId, sheet)
const { side, active, problem, setupProblem, waiting } = capture
const typed = ref('')
const entry = ref<InstanceType<typeof FigureEntry>>()
const mode = ref<'read' | 'strike' | 'cut' | 'check' | 'gain'>('read')
const setupOpen = ref(false)
const note = ref<Problem>()
const benchOpen = ref(false)
const partsOpen = ref(false)
const table = ref<HTMLInputElement>()

const rung = computed(() => sheet.value?.rungs.find((r) => r.cylinder === active.value))
const readings = computed(() => rung.value?.[side.value].readings ?? [])
const last = computed(() => readings.value.findLast((r) => !r.struck))
const bench = computed(() => {
  const id = sheet.value?.setup?.bench_id
  return shop.value?.benches.find((b) => b.id === id) ?? shop.value?.benches[0]
})
const { state: liveState, strip, takeable, fresh, needed, last: lastSample, restart } = useLive(bench, units)
const checks = useChecks(jobId, capture.ensureBench, capture.ensureSetup)
const { kind: checking, chosen: chosenCheck, plate, depression: lowDepression } = checks
const { paste, keepFirst, read: readTable } = useTable(jobId, sheet, capture, note)
const live = computed(() => (typed.value ? (figure(typed.value) ?? undefined) : takeable.value?.mean?.value))
const following = computed(() => capture.next(active.value))
const words = computed(() => {
  const on = chosenCheck.value || following.value === active.value ? '' : `, on to runner ${following.value}`
  if (typed.value.trim()) return `Keep ${typed.value.trim()}${on}`
  if (takeable.value) return `Take ${takeable.value.mean?.text ?? 'what it shows'}${on}`
  if (liveState.value?.state === 'speaking') return 'Wait for its samples, or type'
  return chosenCheck.value ? 'Type what the bench shows' : `Type what runner ${active.value} reads`
})
const rungHeight = computed(() => {
  const count = Math.max(1, sheet.value?.rungs.length ?? 5)
  return `${Math.max(36, Math.min(76, Math.floor(390 / count)))}px`
})
async function load(): Promise<void> {
  await fill(sheet, get(`/api/jobs/${jobId}/bench?units=${units.value}&wanted_percent=${wantedGain.value}`))
}

async function refresh(): Promise<void> {
  await whileReachable(() => Promise.all([load(), reloadJob()]))
}

let pendingRefresh: ReturnType<typeof setTimeout> | undefined
const stop = onSent((write) => {
  if (!write.about.startsWith(jobId)) return
  clearTimeout(pendingRefresh)
  pendingRefresh = setTimeout(() => void refresh(), 30)
})
onBeforeUnmount(stop)
watch([units, wantedGain], load)
onMounted(async () => {
  await load()
  if (sheet.value?.after_state_id) side.value = 'after'
  active.value = capture.next(sheet.value?.rungs.length ?? 0)
  focusEntry()
})

/** A question about the rung just left brings it back, unless the next figure is being typed already. */
watch(writes, (all) => {
  const asked = all.find((w) => w.problem && w.about.startsWith(`${jobId}/${capture.stateId.value}/`))
  if (!asked || typed.value || problem.value) return
  active.value = Number(asked.about.split('/').at(-1))
})
watch(setupProblem, (detail) => {
  if (detail) setupOpen.value = true
})

function focusEntry(): void {
  void nextTick(() => entry.value?.focus())
}

function leaveQuestion(): void {
  mode.value = 'read'
  focusEntry()
}

function choose(cylinder: number): void {
  active.value = cylinder
  mode.value = 'read'
  focusEntry()
}

function step(by: number): void {
  const count = sheet.value?.rungs.length ?? 1
  choose(Math.min(count, Math.max(1, active.value + by)))
}

async function keep(): Promise<void> {
  const text = typed.value.trim()
  const taken = text ? undefined : takeable.value
  if ((!text && !taken) || problem.value || ['strike', 'cut', 'gain'].includes(mode.value)) return tell(false)
  if (mode.value === 'check' && !checking.value) return
  if (!personId.value) {
    note.value = told('Say who is at the bench first, at the top right: every figure carries its person.')
    return
  }
  typed.value = ''
  note.value = undefined
  restart()
  tell()
  if (mode.value === 'check') return takeCheck(text, taken)
  if (!taken?.mean && !text) return
  const at = active.value
  const sending = capture.keep(at, text, taken)
  active.value = capture.next(at)
  focusEntry()
  await sending
}

async function takeCheck(text: string, taken: LiveState | undefined): Promise<void> {
  await checks.take(text, sheet.value?.unit_code ?? 'cfm', taken)
  if (checks.problem.value) typed.value = text
  else leaveQuestion()
}

function chooseCheck(kind: CheckKind): void {
  checking.value = kind
  if (kind !== 'plate') focusEntry()
}

function leaveCheck(): void {
  if (checks.problem.value) capture.withdraw(checks.problem.value.id)
  checking.value = undefined
  leaveQuestion()
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
  note.value = told('The last set-up stands again. Press U to change it.')
}

function pickOffer(number: number): void {
  const offer = problem.value?.problem?.offers?.[number - 1]
  if (problem.value && offer) choosePatch(offer.patch)
}

function choosePatch(patch: Record<string, unknown>): void {
  const write = problem.value
  if (!write) return
  void capture.answer(write.id, patch)
  active.value = capture.next(active.value)
  focusEntry()
}

/** The figure goes back into the entry: nothing typed is lost. */
function takeBack(): void {
  const write = problem.value
  if (!write) return
  typed.value = String(write.body['typed'] || write.body['shown'] || '')
  capture.withdraw(write.id)
  focusEntry()
}

function onEntryKey(event: KeyboardEvent): void {
  if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
    event.preventDefault()
    step(event.key === 'ArrowDown' ? 1 : -1)
  } else if (event.key === 'Escape') {
    if (mode.value === 'cut') mode.value = 'read'
    else if (mode.value === 'check') leaveCheck()
    else if (problem.value) takeBack()
    else if (note.value) note.value = undefined
    else typed.value = ''
  } else if (mode.value === 'cut' && /^[0-3]$/.test(event.key)) {
    event.preventDefault()
    void cut(Number(event.key))
  } else if (mode.value === 'check' && !checking.value && /^[1-5]$/.test(event.key)) {
    event.preventDefault()
    const check = CHECKS[Number(event.key) - 1]
    if (check) chooseCheck(check.kind)
  } else if (problem.value && !typed.value && /^[1-9]$/.test(event.key)) {
    event.preventDefault()
    pickOffer(Number(event.key))
  }
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

async function cut(stage: number | null): Promise<void> {
  leaveQuestion()
  await capture.cut(stage)
}

async function keepSetup(form: Partial<SetupBody>): Promise<void> {
  await capture.keepSetup(form)
  if (!setupProblem.value) {
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
  else note.value = told(`Runner ${active.value} has no figure ${side.value} to strike out.`)
}

async function toggleReference(): Promise<void> {
  try {
    await capture.chooseReference(job.value?.version ?? 0)
  } catch (error) {
    note.value = told(error instanceof Refused ? error.problem.detail : 'Elvarn does not answer. Try again.')
  }
  await refresh()
  focusEntry()
}

function print(): void {
  void router.push(`/jobs/${jobId}/handover?print=1`)
}

useKeys([
  { key: 'a', says: 'before or after (notes the cut)', run: toggleSide },
  { key: 'x', says: 'strike the last figure out', run: startStrike },
  { key: 'z', says: 'strike the figure taken last: a mis-trigger', run: strikeLast },
  { key: 'u', says: 'change the set-up', run: () => (setupOpen.value = true) },
  { key: 'r', says: 'the last set-up again', run: repeatSetup },
  { key: 'c', says: 'check the bench: zero, leak, plate', run: () => (mode.value = 'check') },
  { key: 'b', says: 'the bench: meter, ranges, line', run: () => (benchOpen.value = true) },
  {
    key: 't',
    says: 'tests: sweeps, lift curves, copies, maps',
    run: () => void router.push(`/jobs/${jobId}/tests`),
  },
  {
    key: 'o',
    says: 'what a figure is known to, part by part',
    run: () => (partsOpen.value = !partsOpen.value),
  },
  { key: 'n', says: 'one runner stands for the others, or all are read', run: toggleReference },
  { key: 'w', says: 'the gain that the bench is to show', run: () => (mode.value = 'gain') },
  { key: 's', says: 'a sound when a figure is taken', run: toggleSound },
  { key: 'i', says: 'read a table (CSV or TSV)', run: () => table.value?.click() },
  { key: 'p', says: 'print the flow sheet', run: print },
])
</script>

<template>
  <div v-if="sheet" class="bench">
    <section class="take" aria-label="Figure">
      <div class="which">
        <h2>{{ chosenCheck ? `Check: ${chosenCheck.label}` : `Runner ${active}` }}</h2>
        <span v-if="!chosenCheck" class="narrow" :class="side === 'after' ? 'cut-word' : 'quiet'">
          {{ side === 'after' ? `after · ${sheet.after_label ?? 'cut'}` : `before · ${sheet.before_label}` }}
        </span>
      </div>
      <FigureEntry
        ref="entry"
        v-model="typed"
        :label="
          chosenCheck ? `${chosenCheck.label}, ${sheet.unit}` : `Flow of runner ${active}, ${sheet.unit}`
        "
        :unit="sheet.unit"
        :placeholder="liveState?.mean?.text ?? rung?.[side].mean?.text ?? '0.0'"
        :forming="!!takeable"
        @take="keep"
        @key="onEntryKey"
        @paste="paste"
      />
      <LiveStrip
        v-if="liveState"
        :state="liveState"
        :strip="strip"
        :fresh="fresh"
        :needed="needed"
        :last="lastSample"
      />
      <ProblemNote
        v-if="checks.problem.value?.problem"
        :problem="checks.problem.value.problem"
        give-up="no check"
        @give-up="leaveCheck"
      />
      <ProblemNote
        v-else-if="problem?.problem"
        :problem="problem.problem"
        give-up="take the figure back"
        @choose="choosePatch"
        @give-up="takeBack"
      />
      <ProblemNote
        v-else-if="note"
        :problem="note"
        give-up="leave it"
        @choose="keepFirst"
        @give-up="note = undefined"
      />
      <AskStrike
        v-if="mode === 'strike'"
        :figure="last?.typed ?? ''"
        :cylinder="active"
        @strike="strike"
        @leave="leaveQuestion"
      />
      <AskGain v-else-if="mode === 'gain'" @leave="leaveQuestion" />
      <AskCut v-else-if="mode === 'cut'" @cut="cut" @leave="leaveQuestion" />
      <AskCheck
        v-else-if="mode === 'check'"
        v-model:plate="plate"
        v-model:depression="lowDepression"
        :kind="checking"
        :live="!!takeable"
        @choose="chooseCheck"
        @leave="leaveCheck"
      />
      <Button
        v-if="mode === 'read' || chosenCheck"
        class="keep"
        :disabled="(!typed.trim() && !takeable) || !!problem"
        @click="keep"
      >
        <span>{{ words }}</span>
        <KeyCap k="Enter" />
      </Button>
      <SetupForm
        v-if="setupOpen"
        :setup="sheet.setup ?? sheet.previous"
        :problem="setupProblem"
        @keep="keepSetup"
        @leave="setupOpen = false"
      />
      <BenchForm v-else-if="benchOpen && bench" :bench="bench" @kept="benchKept" @leave="benchOpen = false" />
      <SetupCard v-else :setup="sheet.setup" :checks="sheet.checks" :basis="sheet.basis" />
      <ReadingList
        v-if="readings.length"
        v-model:parts="partsOpen"
        :readings="readings"
        :known="rung?.[side].known"
        :unit="sheet.unit"
      />
    </section>
    <section class="rungs" :style="{ '--rung': rungHeight }">
      <Ladder
        :rungs="sheet.rungs"
        :mean="sheet.mean"
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
        @table="table?.click()"
        @print="print"
      />
      <input
        ref="table"
        type="file"
        class="hidden-to-eyes"
        accept=".csv,.tsv,.txt"
        tabindex="-1"
        aria-label="Table of figures"
        @change="readTable"
      />
    </section>
    <Margin title="What the figures say" :sentences="sheet.margin" />
  </div>
</template>

<style scoped>
.bench {
  display: grid;
  grid-template-columns: 372px minmax(0, 1fr) 280px;
  min-height: 0;
}
.take {
  display: grid;
  grid-auto-rows: max-content;
  align-content: start;
  gap: 12px;
  padding: 18px 0 18px 28px;
  overflow-y: auto;
}
.which {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
}
.which h2 {
  font-size: 22px;
}
.cut-word {
  color: var(--cut);
  font-weight: 600;
}
.keep {
  justify-content: space-between;
  padding: 10px 18px;
  font-size: 19px;
}
.rungs {
  padding: 14px 18px 14px 30px;
  min-width: 0;
  overflow-y: auto;
}
@media (max-width: 1000px) {
  .bench {
    grid-template-columns: minmax(0, 1fr);
  }
  .take {
    padding: 16px 20px 8px;
  }
  .rungs {
    padding: 8px 20px;
  }
}
</style>
