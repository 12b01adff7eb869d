<script setup lang="ts">
/** Another band to look at; with a name it is kept as a use of the job. */
import Button from 'primevue/button'
import { ref } from 'vue'
import { api, problemIn, told, type Schemas } from '@/api/client'
import KeyCap from '@/frame/KeyCap.vue'
import { useJob } from '@/frame/job'
import TextField from '@/ui/TextField.vue'
import { whole } from '@/ui/figures'

const props = defineProps<{ use: Schemas['UseView'] | undefined }>()
const emit = defineEmits<{ look: [band: [number, number]]; kept: [name: string]; leave: [] }>()
const { id: jobId } = useJob()
const low = ref(props.use?.low_rpm.toFixed(0) ?? '')
const high = ref(props.use?.high_rpm.toFixed(0) ?? '')
const name = ref(props.use?.kept ? props.use.name : '')
const error = ref('')

async function keep(low_rpm: number | null, high_rpm: number | null): Promise<void> {
  const body = { name: name.value, low_rpm, high_rpm }
  try {
    await told(api.POST('/api/jobs/{job_id}/uses', { params: { path: { job_id: jobId } }, body }))
    emit('kept', low_rpm === null ? '' : name.value)
  } catch (caught) {
    error.value = problemIn(caught, 'Try again.').detail
  }
}

async function set(): Promise<void> {
  const [from, to] = [whole(low.value), whole(high.value)]
  if (from === null || to === null || from >= to) {
    error.value = `'${low.value}' to '${high.value}' rpm is no band. Type two speeds, the lower first.`
  } else if (name.value.trim()) await keep(from, to)
  else emit('look', [from, to])
}
</script>

<template>
  <form class="band-form" @submit.prevent="set" @keydown.esc="emit('leave')">
    <TextField v-model="low" label="From, rpm" small focus inputmode="numeric" />
    <TextField v-model="high" label="To, rpm" small inputmode="numeric" />
    <TextField v-model="name" label="Keep as a use named" small placeholder="slalom" />
    <Button type="submit" size="small">Set band <KeyCap k="Enter" /></Button>
    <Button v-if="use?.kept" outlined size="small" @click="keep(null, null)">Take {{ use.name }} away</Button>
    <p v-if="error" class="harm" role="alert">{{ error }}</p>
  </form>
</template>

<style scoped>
.band-form {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: end;
}
.band-form p {
  flex-basis: 100%;
  margin: 0;
}
</style>
