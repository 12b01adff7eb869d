<script setup lang="ts">
/** A throttle or adapter that came along: its name, and its place on the path where that is still empty. */
import Button from 'primevue/button'
import { ref } from 'vue'
import { listed } from '@/airpath/layout'
import { api, newId, problemIn, told, type Problem } from '@/api/client'
import { useJob } from '@/frame/job'
import KeyCap from '@/frame/KeyCap.vue'
import { useSession } from '@/frame/session'
import ChoiceField from '@/ui/ChoiceField.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import TextField from '@/ui/TextField.vue'

const emit = defineEmits<{ added: [part: string]; leave: [] }>()
const { id: jobId, job } = useJob()
const { personId } = useSession()
const KINDS = ['throttle', 'adapter', 'restrictor'].map((k) => ({ label: k, value: k }))
const kind = ref('throttle')
const name = ref('')
const problem = ref<Problem>()

async function add(): Promise<void> {
  const [part_id, state_id] = [newId(), newId()]
  try {
    const body = { person_id: personId.value, job_id: jobId, kind: kind.value, name: name.value, state_id }
    await told(api.PUT('/api/parts/{part_id}', { params: { path: { part_id } }, body }))
    await mount(state_id)
    emit('added', part_id)
  } catch (caught) {
    problem.value = problemIn(caught, 'Your entry is still here; press Enter to retry.')
  }
}

/** On the path of the latest build, where an element of its kind has no part yet. */
async function mount(part_state_id: string): Promise<void> {
  const build = job.value?.builds.at(-1)
  const empty = build && listed(build.path).find((e) => e.kind === kind.value && !e.part_state_id)
  if (!build || !empty) return
  const body = { version: build.version, node_id: empty.node_id, part_state_id }
  await told(api.PATCH('/api/builds/{build_id}', { params: { path: { build_id: build.id } }, body }))
}
</script>

<template>
  <form class="ask" @submit.prevent="add" @keydown.esc="emit('leave')">
    <ChoiceField v-model="kind" label="Which came along" :options="KINDS" />
    <TextField v-model="name" label="Name, as it is called" focus />
    <div class="ways">
      <Button type="submit" size="small">Add <KeyCap k="Enter" /></Button>
      <Button size="small" outlined @click="emit('leave')">Cancel <KeyCap k="Esc" /></Button>
    </div>
    <ProblemNote v-if="problem" :problem="problem" @choose="add" />
  </form>
</template>
