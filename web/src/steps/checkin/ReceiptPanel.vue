<script setup lang="ts">
/** The receipt: what came, in which state, and whether it went back. A line is typed, Enter adds it. */
import Select from 'primevue/select'
import { ref } from 'vue'
import { api, newId, problemIn, told, type Problem, type Schemas } from '@/api/client'
import KeyCap from '@/frame/KeyCap.vue'
import { useSession } from '@/frame/session'
import { offerUndo } from '@/frame/undo'
import ProblemNote from '@/ui/ProblemNote.vue'
import { staleWays } from '@/ui/stale'
import { day } from '@/ui/words'

type Item = Schemas['Item']
const props = defineProps<{ jobId: string; items: Item[] }>()
const emit = defineEmits<{ changed: [] }>()
const { personId } = useSession()
const words = ref('')
const field = ref<HTMLInputElement>()
const problem = ref<Problem>()
const CONDITIONS = [
  { value: 'fine', label: 'good' },
  { value: 'worked_on', label: 'modified before' },
  { value: 'broken', label: 'broken' },
  { value: 'missing', label: 'missing' },
]

async function tried(work: () => Promise<unknown>): Promise<void> {
  try {
    await work()
    problem.value = undefined
    emit('changed')
  } catch (error) {
    problem.value = problemIn(error, 'Try again.')
  }
}

const add = () =>
  tried(async () => {
    if (!words.value.trim()) return
    await told(
      api.PUT('/api/items/{item_id}', {
        params: { path: { item_id: newId() } },
        body: { person_id: personId.value, job_id: props.jobId, words: words.value },
      }),
    )
    words.value = ''
  })
/** The edit that was sent last, to be sent again where somebody else was faster. */
let last: [Item, Partial<Item>] | undefined
const onVersion = ref(0)
const change = (item: Item, edit: Partial<Item>) => {
  last = [item, edit]
  onVersion.value = item.version
  return send()
}
const send = () =>
  tried(() => {
    const [item, edit] = last!
    const { words: w, condition, note, returned_on } = { ...item, ...edit }
    const version = onVersion.value
    return told(
      api.PATCH('/api/items/{item_id}', {
        params: { path: { item_id: item.id } },
        body: { version, words: w, condition, note, returned_on },
      }),
    )
  })
const stale = staleWays(problem, onVersion, send, () => emit('changed'))
const remove = (item: Item) =>
  tried(async () => {
    const at = { path: { item_id: item.id }, query: { version: item.version } }
    const body = await told(api.DELETE('/api/items/{item_id}', { params: at }))
    offerUndo(`“${item.words}” taken off the receipt`, async () => {
      await told(api.PUT('/api/items/{item_id}', { params: { path: { item_id: newId() } }, body }))
      emit('changed')
    })
  })
const today = () => new Date().toISOString().slice(0, 10)
defineExpose({ focus: () => field.value?.focus() })
</script>

<template>
  <div class="receipt">
    <ul>
      <li v-for="i in items" :key="i.id" :class="i.condition">
        <span class="words"
          ><strong>{{ i.words }}</strong>
          <input
            :value="i.note"
            class="note"
            :aria-label="`Note on ${i.words}`"
            placeholder="note"
            @change="change(i, { note: ($event.target as HTMLInputElement).value })"
        /></span>
        <Select
          size="small"
          :model-value="i.condition"
          :options="CONDITIONS"
          option-label="label"
          option-value="value"
          :aria-label="`Condition of ${i.words}`"
          @update:model-value="(condition) => change(i, { condition })"
        />
        <button
          v-if="i.condition !== 'missing'"
          type="button"
          class="way"
          @click="change(i, { returned_on: i.returned_on ? null : today() })"
        >
          {{ i.returned_on ? `returned ${day(i.returned_on)}` : 'Mark returned' }}
        </button>
        <span v-else />
        <button type="button" class="way" :aria-label="`Take ${i.words} off the receipt`" @click="remove(i)">
          ×
        </button>
      </li>
    </ul>
    <form @submit.prevent="add">
      <input
        ref="field"
        v-model="words"
        placeholder="item, e.g. throttle with sensor, gasket, 8 bolts"
        aria-label="Received item"
      />
      <button type="submit" class="way">Add <KeyCap k="A" /></button>
    </form>
    <ProblemNote v-if="problem" :problem="problem" :stale="stale" />
  </div>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: 1px solid var(--hair);
}
li {
  display: grid;
  grid-template-columns: 160px minmax(0, 1fr) 34px;
  gap: 10px;
  align-items: center;
  padding: 4px 0;
  border-bottom: 1px solid var(--faint);
}
.words {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  align-items: baseline;
  grid-column: 1 / -1;
  min-width: 0;
}
.words .note {
  flex: 1 1 120px;
}
.missing strong,
.broken strong {
  color: var(--harm);
}
.worked_on strong {
  color: var(--doubt);
}
input {
  font: inherit;
  color: inherit;
  background: var(--sheet);
  border: 1px solid var(--hair);
  padding: 4px 8px;
  min-width: 0;
}
.note {
  border-color: transparent;
  background: none;
  padding: 0;
  font: 500 15px var(--narrow);
  color: var(--quiet);
}
form {
  display: flex;
  gap: 10px;
  padding-top: 8px;
}
form input {
  flex: 1;
}
</style>
