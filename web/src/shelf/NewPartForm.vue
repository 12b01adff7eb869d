<script setup lang="ts">
/** A part that is new on the shelf: its type and name, and the bore where it was measured. */
import Button from 'primevue/button'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, newId, now, problemIn, told, type Problem } from '@/api/client'
import KeyCap from '@/frame/KeyCap.vue'
import { useSession } from '@/frame/session'
import ChoiceField from '@/ui/ChoiceField.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import TextField from '@/ui/TextField.vue'
import { PART_KINDS } from '@/ui/partKinds'

const emit = defineEmits<{ leave: [] }>()
const { personId } = useSession()
const router = useRouter()
const problem = ref<Problem>()
const fresh = ref({ kind: 'throttle', name: '', maker: '', bore: '' })
const kindOptions = PART_KINDS.map((k) => ({ value: k, label: k }))

async function add(accepted: string[] = []): Promise<void> {
  const [id, state_id] = [newId(), newId()]
  const { kind, name, maker, bore } = fresh.value
  try {
    const part = { person_id: personId.value, job_id: null, kind, name, maker: maker || null, state_id }
    await told(api.PUT('/api/parts/{part_id}', { params: { path: { part_id: id } }, body: part }))
    if (bore.trim()) {
      await told(
        api.PUT('/api/dimensions/{reading_id}', {
          params: { path: { reading_id: newId() } },
          body: {
            person_id: personId.value,
            job_id: null,
            part_state_id: state_id,
            element_kind: kind === 'manifold' ? 'runner' : kind,
            cylinder: kind === 'manifold' ? 1 : null,
            quantity: 'bore',
            typed: bore,
            taken_at: now(),
            accepted,
          },
        }),
      )
    }
    void router.push(`/parts/${id}`)
  } catch (error) {
    problem.value = problemIn(error, 'Your entry is still here.')
  }
}
function answer(patch: Record<string, unknown>): void {
  if (typeof patch['typed'] === 'string') fresh.value.bore = patch['typed']
  problem.value = undefined
  void add((patch['accepted'] as string[] | undefined) ?? [])
}
</script>

<template>
  <form class="add" @submit.prevent="add()" @keydown.esc="emit('leave')">
    <ChoiceField v-model="fresh.kind" label="Type" :options="kindOptions" small />
    <TextField v-model="fresh.name" label="Name" focus small />
    <TextField v-model="fresh.maker" label="Maker" small />
    <TextField v-model="fresh.bore" label="Measured bore" placeholder="70 mm or 2 3/4 in" small />
    <Button type="submit" size="small">Put on the shelf <KeyCap k="Enter" /></Button>
  </form>
  <ProblemNote v-if="problem" :problem="problem" @choose="answer" />
</template>

<style scoped>
.add {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 10px 16px;
  padding: 10px 0;
  border-bottom: 1px solid var(--hair);
}
</style>
