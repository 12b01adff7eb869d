<script setup lang="ts">
/** Steps of the work at one place of the rail: what is to be done, who did it, how long it took; the cautions beside. */
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { ref } from 'vue'
import { vFocus } from '@/ui/focus'
import { api, newId, now, problemIn, told, type Problem, type Schemas } from '@/api/client'
import { useSheet } from '@/api/sheet'
import { sent } from '@/ui/figures'
import KeyCap from './KeyCap.vue'
import { useKeys } from './keys'
import { useSession } from './session'
import TaskPlan from './TaskPlan.vue'
import WorkOrder from './WorkOrder.vue'
import { day, dayAndTime } from '@/ui/words'
import { useJob } from './job'
import CautionList from '@/ui/CautionList.vue'
import NotShown from '@/ui/NotShown.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import Screen from '@/ui/Screen.vue'
import { staleWays } from '@/ui/stale'

type TaskView = Schemas['TaskView']
const props = defineProps<{
  /** The step of the work, and what its screen is called. */
  word: string
  heading: string
  /** How it stands, in a few words. */
  stands?: string
}>()
const { id: jobId, reload } = useJob()
const { personId } = useSession()
const { sheet, load, failure } = useSheet(
  () =>
    told(
      api.GET('/api/jobs/{job_id}/steps/{rail_step}', {
        params: { path: { job_id: jobId, rail_step: props.word } },
      }),
    ),
  [() => props.word],
)
const title = ref('')
const active = ref<string>()
const minutes = ref('')
const result = ref('')
const problem = ref<Problem>()
/** The version of the step that is open, and what was last sent of it. */
const version = ref(0)
let last: [TaskView, TaskView['state']] | undefined
const entry = ref<{ $el: HTMLInputElement }>()

async function attempt(work: () => Promise<unknown>): Promise<void> {
  try {
    await work()
    problem.value = undefined
    await Promise.all([load(), reload()])
  } catch (caught) {
    problem.value = problemIn(caught, 'Nothing was lost; try again.')
  }
}

function add(): void {
  const text = title.value.trim()
  if (!text) return
  void attempt(async () => {
    await told(
      api.PUT('/api/steps/{step_id}', {
        params: { path: { step_id: newId() } },
        body: {
          person_id: personId.value,
          job_id: jobId,
          rail_step: props.word,
          title: text,
        },
      }),
    )
    title.value = ''
  })
}

function open(step: TaskView): void {
  active.value = active.value === step.id ? undefined : step.id
  version.value = step.version
  minutes.value = step.minutes?.toString() ?? ''
  result.value = step.result ?? ''
}

function mark(step: TaskView, to: TaskView['state'], patch: Record<string, unknown> = {}): void {
  last = [step, to]
  void attempt(async () => {
    await told(
      api.PATCH('/api/steps/{step_id}', {
        params: { path: { step_id: step.id } },
        body: {
          version: version.value,
          person_id: personId.value,
          state: to,
          at: now(),
          minutes: sent(minutes.value),
          result: result.value || null,
          ...patch,
        },
      }),
    )
    active.value = undefined
  })
}

/** With an offer's changes, the last mark again. */
function anyway(patch: Record<string, unknown>): void {
  if (last) mark(...last, patch)
}
const isLate = (s: TaskView) => s.state !== 'done' && !!s.due_back_on && s.due_back_on < now().slice(0, 10)
function planned(s: TaskView): string {
  const outside = s.outside
    ? `at ${s.outside}${s.due_back_on ? `, ${isLate(s) ? 'was due' : 'due'} back ${day(s.due_back_on)}` : ''}`
    : ''
  return [s.assigned_to, s.planned_on ? day(s.planned_on) : '', outside].filter(Boolean).join(' · ')
}
function plan(step: TaskView, given: object): void {
  void attempt(async () => {
    await told(
      api.PATCH('/api/steps/{step_id}/plan', {
        params: { path: { step_id: step.id } },
        body: { version: version.value, person_id: personId.value, ...given },
      }),
    )
    active.value = undefined
  })
}
function addWork(work: string): void {
  void attempt(() =>
    told(
      api.PUT('/api/steps/{step_id}', {
        params: { path: { step_id: newId() } },
        body: { person_id: personId.value, job_id: jobId, rail_step: props.word, work },
      }),
    ),
  )
}

const stale = staleWays(
  problem,
  version,
  () => last && mark(...last),
  async () => {
    active.value = undefined
    await load()
  },
)

useKeys([{ key: 'n', says: 'new step', run: () => entry.value?.$el.focus() }])
const MARKS: Record<string, string> = { open: 'to do', waiting: 'on hold', done: 'done' }
</script>

<template>
  <Screen v-if="sheet">
    <div class="tasks">
      <div class="top">
        <h2>{{ heading }}</h2>
        <span class="quiet narrow">
          {{ [stands, `${sheet.minutes} min so far`].filter(Boolean).join(' · ') }}
        </span>
      </div>
      <ol>
        <li v-for="s in sheet.steps" :key="s.id" :class="s.state">
          <button type="button" class="row plain-button" :aria-expanded="active === s.id" @click="open(s)">
            <span class="mark narrow">{{ MARKS[s.state] }}</span>
            <span class="what"
              >{{ s.title }}<span v-if="s.result" class="quiet"> · {{ s.result }}</span>
              <span v-if="s.waits_for" class="doubt narrow"> after: {{ s.waits_for }}</span>
              <span v-if="s.doubts.length" class="doubt narrow"> done {{ s.doubts.join(', ') }}</span></span
            >
            <span class="quiet narrow" :class="{ doubt: isLate(s) }">
              <template v-if="s.state !== 'done'">{{ planned(s) }}</template>
              <template v-if="s.minutes != null">{{ s.minutes }} min</template>
              <template v-if="s.done_at"> · {{ s.done_by }}, {{ dayAndTime(s.done_at) }}</template>
            </span>
          </button>
          <form
            v-if="active === s.id"
            class="finish"
            @submit.prevent="mark(s, 'done')"
            @keydown.esc="active = undefined"
          >
            <InputText
              v-model="minutes"
              size="small"
              placeholder="minutes"
              aria-label="Minutes"
              inputmode="decimal"
              v-focus
            />
            <InputText
              v-model="result"
              size="small"
              placeholder="result"
              aria-label="Result"
              class="result"
            />
            <Button type="submit" size="small">Done <KeyCap k="Enter" /></Button>
            <Button size="small" outlined @click="mark(s, 'waiting')">Waits</Button>
            <Button v-if="s.state !== 'open'" size="small" outlined @click="mark(s, 'open')">Reopen</Button>
          </form>
          <TaskPlan
            v-if="active === s.id && s.state !== 'done'"
            :step="s"
            @plan="(given) => plan(s, given)"
            @keydown.esc="active = undefined"
          />
        </li>
      </ol>
      <p v-if="!sheet.steps.length" class="quiet">No steps yet. Add one step a line.</p>
      <form class="new" @submit.prevent="add">
        <InputText ref="entry" v-model="title" placeholder="new step" aria-label="New step" />
        <Button type="submit" outlined>Add <KeyCap k="N" /></Button>
      </form>
      <ProblemNote
        v-if="problem"
        :problem="problem"
        :stale="stale"
        :words="{ done_by: 'by' }"
        @choose="anyway"
      />
      <WorkOrder v-if="sheet.works.length" :sheet="sheet" @add="addWork" />
      <p v-if="$slots['default']" class="quiet narrow"><slot /></p>
    </div>
    <template #margin>
      <aside aria-label="Cautions">
        <CautionList :cautions="sheet.cautions" />
      </aside>
    </template>
  </Screen>
  <NotShown v-else :why="failure" />
</template>

<style scoped>
.tasks {
  display: grid;
  align-content: start;
  gap: 14px;
  padding: 8px 4px;
}
.top {
  display: flex;
  gap: 16px;
  align-items: baseline;
}
ol {
  margin: 0;
  padding: 0;
  list-style: none;
  border-top: 1px solid var(--hair);
}
li {
  border-bottom: 1px solid var(--hair);
}
.row {
  display: grid;
  grid-template-columns: 64px minmax(0, 1fr) auto;
  gap: 12px;
  width: 100%;
  padding: 11px 4px;
}
.row:hover {
  background: var(--sheet);
}
.mark {
  font-weight: 600;
  color: var(--dye);
}
.done .mark {
  color: var(--quiet);
}
.waiting .mark {
  color: var(--doubt);
}
.what {
  font-weight: 500;
}
.finish,
.new {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  padding: 0 4px 12px 80px;
}
.finish :deep(.p-inputtext) {
  width: 110px;
}
.finish .result {
  flex: 1;
}
.new {
  padding: 0;
}
.new :deep(.p-inputtext) {
  flex: 1;
}
aside {
  display: grid;
  align-content: start;
  gap: 12px;
  padding: 20px 22px;
  border-left: 1px solid var(--hair);
}
@media (max-width: 1000px) {
  .steps {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
