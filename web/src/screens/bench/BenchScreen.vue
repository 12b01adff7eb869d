<script setup lang="ts">
/** The bench: the figure being taken large, the ladder of runners, what the figures say. All of it by key. */
import Button from 'primevue/button'
import { computed, nextTick, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { get, post, Refused, whileReachable, type Problem, type Schemas } from '@/api/client'
import { flush, useOutbox } from '@/api/outbox'
import Ladder from '@/charts/Ladder.vue'
import { figure, pasted } from '@/shared/figures'
import KeyCap from '@/shared/KeyCap.vue'
import { useKeys } from '@/shared/keys'
import Margin from '@/shared/Margin.vue'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useSession } from '@/shared/session'
import { useJob } from '../job'
import { useCapture, type SetupForm } from './capture'
import AskCut from './AskCut.vue'
import AskStrike from './AskStrike.vue'
import ReadingList from './ReadingList.vue'
import SetupCard from './SetupCard.vue'

const { id: jobId, reload: reloadJob } = useJob()
const { units, personId } = useSession()
const { onSent, writes } = useOutbox()
const router = useRouter()
const sheet = shallowRef<Schemas['BenchSheet']>()
const capture = useCapture(jobId, sheet)
const { side, active, problem, waiting } = capture
const typed = ref('')
const entry = ref<HTMLInputElement>()
const mode = ref<'read' | 'strike' | 'cut'>('read')
const setupOpen = ref(false)
const note = ref<Problem>()
const surplus = ref<string[]>([])
const table = ref<HTMLInputElement>()

const rung = computed(() => sheet.value?.rungs.find((r) => r.cylinder === active.value))
const readings = computed(() => rung.value?.[side.value].readings ?? [])
const last = computed(() => readings.value.findLast((r) => !r.struck))
const live = computed(() => (typed.value ? (figure(typed.value) ?? undefined) : undefined))
const following = computed(() => capture.next(active.value))
const setupProblem = computed(
  () => writes.value.find((w) => w.about === `${jobId}/setup` && w.problem)?.problem?.detail ?? '',
)
const rungHeight = computed(() => {
  const count = Math.max(1, sheet.value?.rungs.length ?? 5)
  return `${Math.max(36, Math.min(76, Math.floor(430 / count)))}px`
})
async function load(): Promise<void> {
  sheet.value = await get(`/api/jobs/${jobId}/bench?units=${units.value}`)
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
watch(units, load)
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
  if (!text || problem.value) return
  if (!personId.value) {
    note.value = told('Say who is at the bench first, at the top right: every figure carries its person.')
    return
  }
  const at = active.value
  typed.value = ''
  note.value = undefined
  const sending = capture.keep(at, text)
  active.value = capture.next(at)
  focusEntry()
  await sending
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
  typed.value = String(write.body['typed'])
  capture.withdraw(write.id)
  focusEntry()
}

function onEntryKey(event: KeyboardEvent): void {
  if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
    event.preventDefault()
    step(event.key === 'ArrowDown' ? 1 : -1)
  } else if (event.key === 'Escape') {
    if (mode.value === 'cut') mode.value = 'read'
    else if (problem.value) takeBack()
    else if (note.value) note.value = undefined
    else typed.value = ''
  } else if (mode.value === 'cut' && /^[0-3]$/.test(event.key)) {
    event.preventDefault()
    void cut(Number(event.key))
  } else if (problem.value && !typed.value && /^[1-9]$/.test(event.key)) {
    event.preventDefault()
    pickOffer(Number(event.key))
  }
}

function onPaste(event: ClipboardEvent): void {
  const figures = pasted(event.clipboardData?.getData('text') ?? '')
  if (figures.length < 2) return
  event.preventDefault()
  void keepSeveral(figures)
}

async function keepSeveral(figures: string[]): Promise<void> {
  const room = (sheet.value?.rungs.length ?? 0) - active.value + 1
  if (figures.length > room) {
    surplus.value = figures
    const from = active.value === 1 ? `${room} runners` : `${room} runners from ${active.value} on`
    note.value = {
      type: '',
      title: '',
      status: 422,
      code: 'too_many',
      detail: `${figures.length} figures were pasted for ${from}: ${figures.join(', ')}. Nothing was kept yet.`,
      offers: [{ label: `Keep the first ${room}`, patch: {} }],
    }
    return
  }
  const from = active.value
  for (const [i, text] of figures.entries()) await capture.keep(from + i, text)
  active.value = capture.next(from + figures.length - 1)
  focusEntry()
}

function keepFirst(): void {
  const room = (sheet.value?.rungs.length ?? 0) - active.value + 1
  note.value = undefined
  void keepSeveral(surplus.value.slice(0, room))
}

async function strike(why: string): Promise<void> {
  if (!last.value || !why.trim()) return
  leaveQuestion()
  await capture.strike(last.value.id, why)
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

async function keepSetup(form: SetupForm): Promise<void> {
  for (const w of writes.value) if (w.about === `${jobId}/setup` && w.problem) capture.withdraw(w.id)
  await capture.keepSetup(form)
  if (!setupProblem.value) {
    setupOpen.value = false
    await whileReachable(load)
    focusEntry()
  }
}

async function readTable(event: Event): Promise<void> {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file || !sheet.value) return
  ;(event.target as HTMLInputElement).value = ''
  const path = `/api/jobs/${jobId}/flow-table?name=${encodeURIComponent(file.name)}&default_unit=${sheet.value.unit_code}`
  try {
    const read = await post<Schemas['FlowTable']>(path, await file.arrayBuffer())
    const rows = read.rows.filter((row) => row.side === side.value)
    for (const row of rows) await capture.keep(row.cylinder, row.typed)
    const others = read.rows.length - rows.length
    if (others)
      note.value = told(`${others} figures of the other side were left: press A and read the table again.`)
  } catch (error) {
    if (error instanceof Refused) note.value = error.problem
    else throw error
  }
}

const told = (detail: string): Problem => ({ type: '', title: '', status: 422, code: 'told', detail })

/** A figure that was only just kept may still be on its way. */
async function startStrike(): Promise<void> {
  if (!last.value) {
    await flush()
    await refresh()
  }
  if (last.value) mode.value = 'strike'
  else note.value = told(`Runner ${active.value} has no figure ${side.value} to strike out.`)
}

function print(): void {
  void router.push(`/jobs/${jobId}/handover?print=1`)
}

useKeys([
  { key: 'a', says: 'before or after (notes the cut)', run: toggleSide },
  { key: 'x', says: 'strike the last figure out', run: startStrike },
  { key: 'u', says: 'change the set-up', run: () => (setupOpen.value = true) },
  { key: 'i', says: 'read a table (CSV or TSV)', run: () => table.value?.click() },
  { key: 'p', says: 'print the flow sheet', run: print },
])
</script>

<template>
  <div v-if="sheet" class="bench">
    <section class="take" aria-label="Figure">
      <div class="which">
        <h2>Runner {{ active }}</h2>
        <span class="narrow" :class="side === 'after' ? 'cut-word' : 'quiet'">
          {{ side === 'after' ? `after · ${sheet.after_label ?? 'cut'}` : `before · ${sheet.before_label}` }}
        </span>
      </div>
      <div class="figure-row">
        <input
          ref="entry"
          v-model="typed"
          class="entry mono"
          :class="{ long: typed.length > 6, longer: typed.length > 10 }"
          :aria-label="`Flow of runner ${active}, ${sheet.unit}`"
          :placeholder="rung?.[side].mean?.text ?? '0.0'"
          inputmode="decimal"
          autocomplete="off"
          spellcheck="false"
          data-commands="yes"
          @keydown="onEntryKey"
          @keydown.enter.prevent="keep"
          @paste="onPaste"
        />
        <span class="unit">{{ sheet.unit }}</span>
      </div>
      <ProblemNote
        v-if="problem?.problem"
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
      <AskCut v-else-if="mode === 'cut'" @cut="cut" @leave="leaveQuestion" />
      <Button v-else class="keep" :disabled="!typed.trim() || !!problem" @click="keep">
        <span>{{
          typed.trim()
            ? `Keep ${typed.trim()}, on to runner ${following}`
            : `Type what runner ${active} reads`
        }}</span>
        <KeyCap k="Enter" />
      </Button>
      <SetupCard
        v-model:open="setupOpen"
        :setup="sheet.setup"
        :basis="sheet.basis"
        :problem="setupProblem"
        @keep="keepSetup"
        @learned="load"
      />
      <ReadingList v-if="readings.length" :readings="readings" />
    </section>
    <section class="rungs" :style="{ '--rung': rungHeight }">
      <Ladder
        :rungs="sheet.rungs"
        :mean="sheet.mean"
        :band="sheet.band"
        :unit="sheet.unit"
        :active="active"
        :live="live"
        :waiting="waiting"
        :before-words="`before, ${sheet.before_label}`"
        :after-words="sheet.after_label ? `after, ${sheet.after_label}` : ''"
        @choose="choose"
      />
      <p class="basis narrow quiet">{{ sheet.basis }}</p>
      <div class="keys narrow">
        <span><KeyCap k="↑ ↓" /> runner</span>
        <button type="button" @click="toggleSide">
          <KeyCap k="A" /> {{ side === 'after' ? 'before' : 'after' }}
        </button>
        <button type="button" @click="startStrike"><KeyCap k="X" /> strike</button>
        <button type="button" @click="setupOpen = true"><KeyCap k="U" /> set-up</button>
        <button type="button" @click="table?.click()"><KeyCap k="I" /> table in</button>
        <button type="button" @click="print"><KeyCap k="P" /> print</button>
        <a :href="`/api/jobs/${jobId}/flow.csv`" download>CSV out</a>
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
.figure-row {
  display: flex;
  align-items: baseline;
  gap: 12px;
}
.entry {
  width: 100%;
  min-width: 0;
  padding: 0;
  border: 0;
  border-bottom: 2px solid var(--hair);
  background: none;
  color: var(--ink);
  font-size: 92px;
  font-weight: 600;
  line-height: 1.1;
  letter-spacing: -0.04em;
}
.entry.long {
  font-size: 54px;
}
.entry.longer {
  font-size: 32px;
}
.entry::placeholder {
  color: var(--hair);
  opacity: 1;
}
.entry:focus-visible {
  outline: none;
  border-color: var(--dye);
}
.unit {
  font: 500 22px var(--narrow);
  color: var(--quiet);
}
.keep {
  justify-content: space-between;
  padding: 15px 18px;
  font-size: 19px;
}
.rungs {
  padding: 14px 18px 14px 30px;
  min-width: 0;
  overflow-y: auto;
}
.basis {
  padding-left: 18px;
  font-size: 14px;
}
.keys {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  align-items: center;
  padding: 12px 0 0 18px;
  font-size: 15px;
}
.keys button,
.keys a {
  padding: 0;
  border: 0;
  background: none;
  color: var(--ink);
  cursor: pointer;
  font: inherit;
}
.keys a {
  text-decoration: underline;
}
@media (max-width: 1000px) {
  .bench {
    grid-template-columns: minmax(0, 1fr);
  }
  .take {
    padding: 16px 20px 8px;
  }
  .entry {
    font-size: 120px;
  }
  .rungs {
    padding: 8px 20px;
  }
}
</style>
