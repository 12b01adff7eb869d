<script setup lang="ts">
/** A swap begun: what comes off, what goes on, of which family the engine is. A name is enough for a new part. */
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { api, newId, problemIn, told, type Problem, type Schemas } from '@/api/client'
import { useSheet } from '@/api/sheet'
import KeyCap from '@/frame/KeyCap.vue'
import { useSession } from '@/frame/session'
import ChoiceField from '@/ui/ChoiceField.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import { provideRefusal } from '@/ui/refusal'
import TextField from '@/ui/TextField.vue'

const props = defineProps<{ jobId: string; builds: Schemas['BuildChoice'][] }>()
const emit = defineEmits<{ begun: []; leave: [] }>()
const { personId } = useSession()
const NEW = 'new'
const off = ref(props.builds[0]?.id ?? '')
const on = ref(props.builds[1]?.id ?? NEW)
const name = ref('')
const family = ref('')
const problem = ref<Problem>()
provideRefusal(problem)
const { sheet } = useSheet(() => told(api.GET('/api/engine-families')))
const known = computed(() => (sheet.value?.families ?? []).map((f) => f.name))
const builds = computed(() => props.builds.map((b) => ({ label: b.name, value: b.id })))
const going = computed(() => [...builds.value, { label: 'another part, by its name', value: NEW }])

async function begin(): Promise<void> {
  try {
    await told(
      api.PUT('/api/fit-plans/{plan_id}', {
        params: { path: { plan_id: newId() } },
        body: {
          person_id: personId.value,
          job_id: props.jobId,
          off_build_id: off.value || null,
          on_build_id: on.value === NEW ? null : on.value,
          on_name: name.value,
          family: family.value,
        },
      }),
    )
    emit('begun')
  } catch (caught) {
    problem.value = problemIn(caught, 'Your entry is still here; press Enter to retry.')
  }
}
</script>

<template>
  <form class="begin" aria-label="Swap" @submit.prevent="begin" @keydown.esc="emit('leave')">
    <h2>What comes off, and what goes on?</h2>
    <div class="two">
      <ChoiceField v-model="off" label="Comes off" :options="builds" />
      <ChoiceField v-model="on" label="Goes on" :options="going" />
      <TextField
        v-if="on === NEW"
        v-model="name"
        label="Manifold that goes on: its name"
        place="on_name"
        focus
      />
      <TextField v-model="family" label="Engine family, empty for none" place="family" list="families" />
      <datalist id="families"><option v-for="f in known" :key="f" :value="f" /></datalist>
    </div>
    <p class="quiet">
      The family knows what its engines have on the intake, what is in the way and how long that takes. What
      you add here is kept for the next one.
    </p>
    <p class="doing">
      <Button type="submit">Begin the swap <KeyCap k="Enter" /></Button>
      <Button outlined @click="emit('leave')">Cancel <KeyCap k="Esc" /></Button>
    </p>
    <ProblemNote v-if="problem" :problem="problem" />
  </form>
</template>

<style scoped>
.begin {
  display: grid;
  gap: 14px;
  max-width: 680px;
  padding: 14px 0;
}
.two {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 10px 16px;
}
.two :deep(input) {
  width: 100%;
}
.doing {
  display: flex;
  gap: 10px;
}
</style>
