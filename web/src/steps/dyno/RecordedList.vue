<script setup lang="ts">
/** Recorded pulls that are over and wait: to be kept as pulls, or left out. */
import { ref } from 'vue'
import { api, problemIn, told, type Schemas } from '@/api/client'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import { useSession } from '@/frame/session'

type Recorded = Schemas['RecordingView']
const props = defineProps<{ waiting: Recorded[] }>()
const emit = defineEmits<{ take: [one: Recorded]; left: [] }>()
const { personId } = useSession()
const error = ref('')
const takeFirst = () => {
  const one = props.waiting.find((w) => w.file_digest)
  if (one) emit('take', one)
}
useKeys([{ key: 'r', says: 'look at the recorded pull', run: takeFirst }])

async function leave(one: Recorded): Promise<void> {
  error.value = ''
  try {
    await told(
      api.POST('/api/recordings/{recording_id}/drop', {
        params: { path: { recording_id: one.id } },
        body: { person_id: personId.value },
      }),
    )
    emit('left')
  } catch (caught) {
    error.value = problemIn(caught, 'Try again.').detail
  }
}
const at = (one: Recorded) =>
  new Date(one.started_at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
</script>

<template>
  <ul class="recorded" aria-label="Recorded, not kept yet">
    <li v-for="(one, i) in waiting" :key="one.id" :class="{ harm: one.ended_how === 'limit' }">
      <span>
        <b>Recorded at {{ at(one) }}: {{ one.build }}.</b> {{ one.ended_words || 'Not kept yet.' }}
      </span>
      <button v-if="one.file_digest" type="button" class="way" @click="emit('take', one)">
        <KeyCap v-if="i === 0" k="R" /> look at it
      </button>
      <button type="button" class="way" @click="leave(one)">leave it out</button>
    </li>
    <li v-if="error" class="harm" role="alert">{{ error }}</li>
  </ul>
</template>

<style scoped>
.recorded {
  display: grid;
  gap: 4px;
  margin: 0;
  padding: 6px 12px;
  border-left: 4px solid var(--doubt);
  background: var(--doubt-wash);
  list-style: none;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  align-items: center;
}
</style>
