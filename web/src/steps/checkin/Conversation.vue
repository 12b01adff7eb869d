<script setup lang="ts">
/** Check-in as a conversation: what was answered, a line each with what follows; the one open question; what folds away. */
import { computed, ref } from 'vue'
import { useDebounceFn } from '@vueuse/core'
import type { Problem, Schemas } from '@/api/client'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import SavedNote from '@/ui/SavedNote.vue'
import type { useKept } from '@/ui/useKept'
import type { EngineForm } from './engineForm'
import { JOB_WORDS, type JobForm } from './jobForm'
import QuestionStrip from './QuestionStrip.vue'
import { foldedOf, questionsOf, type Ask } from './questions'

const props = defineProps<{
  posted: boolean
  engine: ReturnType<typeof useKept<EngineForm>>
  job: ReturnType<typeof useKept<JobForm>>
  following: Schemas['Following'][]
  noticed: Problem | undefined
  standards: { word: string; label: string }[]
  version: number
}>()
const emit = defineEmits<{ follow: []; version: [] }>()
const REST_MS = 250

const forms = computed(() => ({ engine: props.engine.form.value, job: props.job.form.value }))
const asked = computed(() => questionsOf(props.posted, forms.value))
const folded = computed(() =>
  foldedOf(props.posted).filter((a) => !asked.value.some((one) => one.name === a.name)),
)
const answers = computed(() => new Map(asked.value.map((a) => [a.name, a.answer(forms.value)])))
const put = ref<Set<string>>(new Set())
const chosen = ref<string>()
/** What is open: what was opened, else the first of those that decide that is not answered and not put off. */
const open = computed(() => {
  const all = [...asked.value, ...folded.value]
  return (
    all.find((a) => a.name === chosen.value) ??
    (chosen.value === ''
      ? undefined
      : asked.value.find((a) => a.decides && !answers.value.get(a.name) && !put.value.has(a.name)))
  )
})
const of = (ask: Ask) => (ask.of === 'engine' ? props.engine : props.job)
const number = (ask: Ask) => {
  const at = asked.value.indexOf(ask)
  return at < 0 ? '' : `${at + 1} of ${asked.value.length}`
}
const said = (ask: Ask) =>
  props.following
    .filter((f) => ask.follows.includes(f.name))
    .map((f) => `${f.name.toLowerCase()} ${f.text} ${f.note?.split(',')[0] ?? ''}`.trim())
    .slice(0, 2)
    .join(' · ')
const saved = computed(() =>
  props.engine.kept.value ? props.engine : props.job.kept.value ? props.job : null,
)

function openOne(name: string): void {
  chosen.value = name
}
function later(): void {
  if (open.value) put.value.add(open.value.name)
  chosen.value = open.value && chosen.value === undefined ? undefined : ''
}
async function keep(): Promise<void> {
  const ask = open.value
  if (!ask || !(await of(ask).keep())) return
  put.value.add(ask.name)
  if (open.value && open.value.name !== ask.name) return // another was opened meanwhile
  const next = asked.value.find((a) => !answers.value.get(a.name) && !put.value.has(a.name))
  chosen.value = next?.name ?? ''
}
const follow = useDebounceFn(() => emit('follow'), REST_MS)
/** What is being typed into stays open, answered or not. */
function typed(): void {
  chosen.value ??= open.value?.name
  if (open.value?.of === 'engine') void follow()
}
/** The line before what is open, or the last one. */
function back(): void {
  const at = open.value ? asked.value.indexOf(open.value) : asked.value.length
  openOne(asked.value[Math.max(0, (at < 0 ? asked.value.length : at) - 1)]!.name)
}

useKeys([
  { key: 'ArrowUp', says: 'open the line before', run: back },
  { key: 'e', says: 'engine', run: () => openOne('engine') },
  ...foldedOf(props.posted).map((a) => ({
    key: a.key ?? '',
    says: `${a.line.toLowerCase()}: ${a.changes ?? ''}`,
    run: () => openOne(a.name),
  })),
])
/** What a strip is told of its question. */
const told = (ask: Ask) => ({
  ask,
  number: number(ask),
  forms: forms.value,
  following: props.following,
  standards: props.standards,
  banks: Number(props.engine.form.value.banks) || 1,
  problem: of(ask).problem.value ?? (ask.of === 'engine' ? props.noticed : undefined),
  noticed: !of(ask).problem.value,
  stale: of(ask).stale,
  words: JOB_WORDS,
})
</script>

<template>
  <section class="conversation" aria-label="Questions">
    <template v-for="a in asked" :key="a.name">
      <QuestionStrip
        v-if="a === open"
        :key="a.name"
        v-bind="told(a)"
        @keep="keep"
        @later="later"
        @typed="typed"
      />
      <button v-else type="button" class="line" @click="openOne(a.name)">
        <span class="narrow quiet">{{ a.line }}</span>
        <strong v-if="answers.get(a.name)">{{ answers.get(a.name) }}</strong>
        <span v-else class="doubt">not answered</span>
        <span class="narrow quiet follows">{{ said(a) }}</span>
      </button>
    </template>
    <SavedNote v-if="saved" :undoable="saved.undoable.value" @undo="saved.undo()" />
    <h3>Folded until they matter: what each changes</h3>
    <div class="folded">
      <button
        v-for="a in folded"
        :key="a.name"
        type="button"
        :aria-expanded="a === open"
        @click="openOne(a === open ? '' : a.name)"
      >
        <KeyCap :k="(a.key ?? '').toUpperCase()" />
        <span
          ><strong>{{ a.line }}</strong
          >{{ a.answer(forms) ? `: ${a.answer(forms)}` : '' }}
          <span class="narrow quiet">{{ a.changes }}</span></span
        >
      </button>
    </div>
    <template v-for="a in folded" :key="`open-${a.name}`">
      <QuestionStrip v-if="a === open" v-bind="told(a)" @keep="keep" @later="later" @typed="typed">
        <button v-if="a.name === 'cam'" type="button" class="way" @click="emit('version')">
          Another cam: engine version {{ version + 1 }}
        </button>
      </QuestionStrip>
    </template>
  </section>
</template>

<style scoped>
.conversation {
  display: grid;
  align-content: start;
}
.line {
  display: grid;
  grid-template-columns: 104px minmax(0, 1fr) minmax(0, 1fr);
  gap: 12px;
  align-items: baseline;
  padding: 7px 4px;
  border: 0;
  border-bottom: 1px solid var(--hair);
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.line strong {
  font-size: 17px;
}
.line:hover,
.line:focus-visible {
  background: var(--sheet);
}
h3 {
  padding: 14px 0 6px;
}
.folded {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
  gap: 8px 14px;
  padding-bottom: 10px;
}
.folded button {
  display: flex;
  gap: 9px;
  align-items: start;
  padding: 0;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.folded .quiet {
  display: block;
}
.folded [aria-expanded='true'] strong {
  color: var(--dye);
}
</style>
