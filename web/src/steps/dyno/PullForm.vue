<script setup lang="ts">
/** What is said of a pull, said anew. Its rows and its file stay. */
import Button from 'primevue/button'
import { ref } from 'vue'
import { api, problemIn, told, type Problem, type Schemas } from '@/api/client'
import KeyCap from '@/frame/KeyCap.vue'
import { useSession } from '@/frame/session'
import ProblemNote from '@/ui/ProblemNote.vue'
import { staleWays } from '@/ui/stale'
import FactsFields from './FactsFields.vue'
import { factsOf, formOf, type PullView } from './pullFacts'

const props = defineProps<{
  pull: PullView
  designs: Schemas['DesignView'][]
  items: Schemas['DeclaredItem'][]
}>()
const emit = defineEmits<{ saved: []; leave: []; remap: [] }>()
const { personId } = useSession()
const form = ref(formOf(props.pull))
/** The card that the form was filled from: the sheet may bring a newer one meanwhile. */
const version = ref(props.pull.version)
const problem = ref<Problem>()

async function save(): Promise<void> {
  problem.value = undefined
  try {
    await told(
      api.POST('/api/pulls/{pull_id}/card', {
        params: { path: { pull_id: props.pull.id } },
        body: {
          person_id: personId.value,
          version: version.value,
          facts: factsOf(form.value, props.pull.pulled_at),
        },
      }),
    )
    emit('saved')
  } catch (error) {
    problem.value = problemIn(error, 'Try again.')
  }
}
const stale = staleWays(problem, version, save, () => emit('saved'))
</script>

<template>
  <form class="pull-form" @submit.prevent="save" @keydown.esc.stop="emit('leave')">
    <h2>
      {{ pull.build }}, {{ pull.label || 'pull' }}
      <span class="quiet narrow">{{ pull.row_count }} rows, kept as they came</span>
    </h2>
    <ProblemNote
      v-if="problem"
      :problem="problem"
      :stale="stale"
      give-up="leave it as it was"
      @give-up="emit('leave')"
    />
    <FactsFields v-model="form" :designs="designs" :items="items" />
    <div class="end">
      <Button type="submit" size="small">Save <KeyCap k="Enter" /></Button>
      <Button v-if="!pull.struck" outlined size="small" @click="emit('remap')">Map its columns anew</Button>
      <Button outlined size="small" @click="emit('leave')">Cancel <KeyCap k="Esc" /></Button>
    </div>
  </form>
</template>

<style scoped>
.pull-form {
  display: grid;
  gap: 12px;
  align-content: start;
}
.end {
  display: flex;
  gap: 12px;
}
</style>
