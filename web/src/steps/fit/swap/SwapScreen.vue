<script setup lang="ts">
/** The swap sheet: what comes off and goes on with what is done between, the task that is on, and what holds up the rest. */
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import type { Schemas } from '@/api/client'
import { useJob } from '@/frame/job'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import CautionList from '@/ui/CautionList.vue'
import KeyRow from '@/ui/KeyRow.vue'
import Margin from '@/ui/Margin.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import { provideRefusal } from '@/ui/refusal'
import Screen from '@/ui/Screen.vue'
import BoltNow from '../bolts/BoltNow.vue'
import { useBolts } from '../bolts/useBolts'
import { following } from './plan'
import NowPanel from './NowPanel.vue'
import PlanPanel from './PlanPanel.vue'
import StrandList from './StrandList.vue'
import TaskGraph from './TaskGraph.vue'
import type { FitTask, UseSwap } from './useSwap'

const props = defineProps<{ use: UseSwap }>()
const { id: jobId } = useJob()
const router = useRouter()
const { problem, tick, say, again, last } = props.use
provideRefusal(problem)
const sheet = computed(() => props.use.sheet.value!)
const swap = computed(() => props.use.swap.value!)
const chosen = ref<string>()
const planning = ref(false)
const panel = ref<InstanceType<typeof NowPanel>>()
const code = ref<string>()
const codeField = ref<HTMLInputElement>()
const task = computed(() => {
  const key = chosen.value ?? swap.value.now
  const of = (wanted: string | null | undefined) => swap.value.tasks.find((t) => t.key === wanted)
  return of(key) ?? of(swap.value.now) ?? swap.value.tasks.at(-1)
})
const then = computed(() => following(swap.value.tasks, task.value?.key ?? swap.value.now, 9))
const phases = computed(() => [...new Set(swap.value.tasks.map((t) => t.phase))])
const { sheet: flanges, problem: boltProblem, tick: tickOf, answer: answerBolt } = useBolts()
/** The flange whose bolts are being tightened. */
const flange = computed(() =>
  task.value?.key === 'bolts' ? flanges.value?.maps.find((m) => m.bolt != null) : undefined,
)

function choose(key: string | undefined): void {
  chosen.value = key
  problem.value = undefined
}
function step(by: number): void {
  const at = swap.value.tasks.findIndex((t) => t.key === task.value?.key)
  choose(swap.value.tasks[Math.min(Math.max(at + by, 0), swap.value.tasks.length - 1)]?.key)
}
function chooseStrand(strand: Schemas['StrandView']): void {
  const open = swap.value.tasks.filter((t) => strand.tasks.includes(t.key))
  choose((open.find((t) => t.state !== 'done') ?? open.at(-1))?.key)
}
async function ticked(to: Parameters<UseSwap['tick']>[1]): Promise<void> {
  if (task.value && (await tick(task.value, to))) chosen.value = undefined
}
async function answer(patch: Record<string, unknown>): Promise<void> {
  if (await again(patch)) chosen.value = undefined
}
async function tickBolt(patch: Record<string, unknown> = {}): Promise<void> {
  if (!flange.value) return
  await tickOf(flange.value, patch)
  await props.use.load()
}
function space(): void {
  if (planning.value || !task.value) return
  if (flange.value) void tickBolt()
  else if (task.value.state !== 'done') panel.value?.done()
}
function takeBack(): void {
  if (flange.value?.rounds.some((r) => r.ticked.length)) return void tickBolt({ back: true })
  const done: FitTask | undefined =
    task.value?.state === 'done' ? task.value : swap.value.tasks.find((t) => t.key === last.value)
  if (done) void tick(done, { state: 'open' }).then((ok) => ok && choose(done.key))
}
function find(): void {
  const wanted = code.value?.trim().toUpperCase() ?? ''
  const strand = swap.value.strands.find((s) => s.code === wanted)
  if (strand) chooseStrand(strand)
  code.value = undefined
}
function askCode(): void {
  code.value = ''
  requestAnimationFrame(() => codeField.value?.focus())
}
async function decide(verb: string, how: string): Promise<void> {
  const asked = task.value
  if (!asked) return
  const kept = await say((now) => ({ said: { ...now.said, [asked.strand]: { verb, how } } as never }))
  if (kept && asked.key.startsWith('find ')) chosen.value = undefined
}
const labels = () => void window.open(`/api/jobs/${jobId}/labels.pdf`, '_blank')
const to = (where: string) => () => void router.push(`/jobs/${jobId}/fit/${where}`)

useKeys([
  { key: ' ', says: 'this task, or this bolt, is done', run: space },
  { key: 'ArrowDown', says: 'next task', run: () => step(1) },
  { key: 'ArrowUp', says: 'task before', run: () => step(-1) },
  { key: 's', says: 'stop here: on hold, its place is kept', run: () => panel.value?.hold() },
  { key: 'u', says: 'take the last tick back', run: takeBack },
  { key: 'c', says: 'find a task by the code on its label', run: askCode },
  { key: 'd', says: 'decide anew what is done with this line', run: () => panel.value?.change() },
  { key: 'n', says: 'note at this task', run: () => panel.value?.toNote() },
  { key: 'f', says: 'photo of this task', run: () => panel.value?.photo() },
  { key: 'e', says: 'kit, what is in the way, ways taken', run: () => (planning.value = !planning.value) },
  {
    key: 't',
    says: 'take over what changed',
    run: () => swap.value.changes.length && void say(() => ({}), { take_over: true }),
  },
  { key: 'l', says: 'labels, as PDF', run: labels },
  { key: 'b', says: 'bolts of a flange', run: to('bolts') },
  { key: 'k', says: 'room, codes, runs badly', run: to('notes') },
  { key: 'v', says: "tuner's page", run: to('tuner') },
  { key: 'o', says: 'other steps, of no swap', run: to('steps') },
  ...[0, 1, 2, 3, 4, 5, 6, 7, 8].map((n) => ({
    key: `${n + 1}`,
    says: `what is done, number ${n + 1}`,
    run: () => void panel.value?.decide(n),
  })),
])
</script>

<template>
  <Screen>
    <ProblemNote v-if="planning && problem" :problem="problem" @choose="again" />
    <PlanPanel
      v-if="planning"
      :swap="swap"
      :builds="sheet.builds"
      :phases="phases"
      :usual="sheet.usual"
      :currency="sheet.currency"
      :say="say"
      @leave="planning = false"
      @away="use.away()"
    />
    <div v-else class="swap">
      <div class="sheet">
        <p v-if="swap.signed_off" class="mock">Signed off: {{ swap.signed_off }}.</p>
        <p v-if="swap.mock_up" class="mock harm">Mock-up: not to be started.</p>
        <StrandList
          :strands="swap.strands"
          :chosen="task?.strand"
          :off="swap.off"
          :on="swap.on"
          @choose="chooseStrand"
        />
        <p v-if="swap.left_over.length" class="left">
          <span class="quiet narrow">Left over</span> {{ swap.left_over.join(' · ') }}
        </p>
        <p v-if="swap.past.length" class="left">
          <span class="quiet narrow">Done, no longer asked for</span> {{ swap.past.join(' · ') }}
        </p>
        <p v-if="sheet.alike" class="quiet">The two builds are alike: nothing to swap.</p>
      </div>
      <div class="doing">
        <NowPanel
          v-if="task"
          ref="panel"
          :task="task"
          :swap="swap"
          :verbs="sheet.verbs"
          :photos="sheet.photos"
          :job-id="jobId"
          :is-now="task.key === swap.now"
          :within="!!flange"
          @tick="ticked"
          @decide="decide"
          @photo="use.load()"
        >
          <BoltNow
            v-if="flange"
            :map="flange"
            slim
            @tight="space"
            @back="takeBack"
            @pick="(n) => tickBolt({ bolt: n })"
          />
        </NowPanel>
        <ProblemNote v-if="problem" :problem="problem" @choose="answer" />
        <ProblemNote v-if="boltProblem" :problem="boltProblem" @choose="answerBolt" />
        <TaskGraph
          :tasks="then"
          :all="swap.tasks"
          :now="swap.now"
          :chosen="task?.key"
          :refused="swap.refused"
          @choose="(t) => choose(t.key)"
        />
      </div>
      <form v-if="code !== undefined" class="code" @submit.prevent="find" @keydown.esc="code = undefined">
        <label
          >Code on the label <input ref="codeField" v-model="code" class="mono" placeholder="V2"
        /></label>
      </form>
      <KeyRow>
        <button type="button" @click="step(1)"><KeyCap k="↑↓" /> task</button>
        <button type="button" @click="askCode"><KeyCap k="C" /> find by code</button>
        <button type="button" @click="labels"><KeyCap k="L" /> labels</button>
        <button type="button" @click="planning = true"><KeyCap k="E" /> kit and plan</button>
        <router-link :to="`/jobs/${jobId}/fit/bolts`"><KeyCap k="B" /> bolts</router-link>
        <router-link :to="`/jobs/${jobId}/fit/notes`"><KeyCap k="K" /> room, codes, runs badly</router-link>
        <router-link :to="`/jobs/${jobId}/fit/tuner`"><KeyCap k="V" /> tuner's page</router-link>
        <router-link :to="`/jobs/${jobId}/fit/steps`"><KeyCap k="O" /> other steps</router-link>
      </KeyRow>
    </div>
    <template #margin>
      <Margin title="Before it runs" :sentences="swap.margin">
        <template #end>
          <CautionList :cautions="sheet.cautions" />
        </template>
      </Margin>
    </template>
  </Screen>
</template>

<style scoped>
.swap {
  display: grid;
  grid-template-columns: minmax(0, 1.5fr) minmax(0, 1fr);
  gap: 6px 28px;
  align-items: start;
}
.doing {
  display: grid;
  gap: 12px;
  padding-left: 20px;
  border-left: 1px solid var(--hair);
}
.swap > :deep(.keys),
.code {
  grid-column: 1 / -1;
}
.left,
.mock {
  padding-top: 8px;
}
.mock {
  font-weight: 600;
}
.code input {
  width: 90px;
  padding: 6px 8px;
  font-size: 18px;
  color: inherit;
  background: var(--sheet);
  border: 1.4px solid var(--dye);
}
@media (max-width: 1000px) {
  .swap {
    grid-template-columns: minmax(0, 1fr);
  }
  .doing {
    order: -1;
    padding: 0;
    border: 0;
  }
}
</style>
