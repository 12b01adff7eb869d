<script setup lang="ts">
/** The receipt: what came, in which state, and whether it went back. A line is typed, Enter adds it. */
import { ref } from 'vue'
import { newId, patch, put, Refused, type Schemas } from '@/api/client'
import KeyCap from '@/shared/KeyCap.vue'
import { useSession } from '@/shared/session'
import { day } from '@/shared/words'

type Item = Schemas['Item']
const props = defineProps<{ jobId: string; items: Item[] }>()
const emit = defineEmits<{ changed: [] }>()
const { personId } = useSession()
const words = ref('')
const field = ref<HTMLInputElement>()
const failure = ref('')
const CONDITIONS: Record<string, string> = {
  fine: 'fine',
  worked_on: 'worked on before',
  broken: 'broken',
  missing: 'missing',
}

async function tried(work: () => Promise<unknown>): Promise<void> {
  try {
    await work()
    failure.value = ''
    emit('changed')
  } catch (error) {
    failure.value = error instanceof Refused ? error.problem.detail : 'Elvarn does not answer. Try again.'
  }
}

const add = () =>
  tried(async () => {
    if (!words.value.trim()) return
    await put(`/api/items/${newId()}`, { person_id: personId.value, job_id: props.jobId, words: words.value })
    words.value = ''
  })
const change = (item: Item, edit: Partial<Item>) =>
  tried(() => {
    const { version, words: w, condition, note, returned_on } = { ...item, ...edit }
    return patch(`/api/items/${item.id}`, { version, words: w, condition, note, returned_on })
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
        <select
          :value="i.condition"
          :aria-label="`How ${i.words} came`"
          @change="change(i, { condition: ($event.target as HTMLSelectElement).value })"
        >
          <option v-for="(label, value) in CONDITIONS" :key="value" :value="value">{{ label }}</option>
        </select>
        <button
          v-if="i.condition !== 'missing'"
          type="button"
          class="way"
          @click="change(i, { returned_on: i.returned_on ? null : today() })"
        >
          {{ i.returned_on ? `went back ${day(i.returned_on)}` : 'goes back' }}
        </button>
        <span v-else />
      </li>
    </ul>
    <form @submit.prevent="add">
      <input
        ref="field"
        v-model="words"
        placeholder="throttle with sensor, gasket, eight bolts…"
        aria-label="What came in"
      />
      <button type="submit" class="way">Add <KeyCap k="A" /></button>
    </form>
    <p v-if="failure" class="harm" role="alert">{{ failure }}</p>
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
  grid-template-columns: minmax(0, 1fr) 140px 124px;
  gap: 10px;
  align-items: center;
  padding: 4px 0;
  border-bottom: 1px solid var(--faint);
}
.words {
  display: grid;
  min-width: 0;
}
.missing strong,
.broken strong {
  color: var(--harm);
}
.worked_on strong {
  color: var(--doubt);
}
input,
select {
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
