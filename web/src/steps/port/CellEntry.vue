<script setup lang="ts">
/** A section or a wall of the station that is looked at, typed as it is read off the gauge. */
import Button from 'primevue/button'
import { computed, nextTick, ref, watch } from 'vue'
import { api, newId, now, problemIn, told, type Problem, type Schemas } from '@/api/client'
import { useSession } from '@/frame/session'
import KeyCap from '@/frame/KeyCap.vue'
import ChoiceField from '@/ui/ChoiceField.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import TextField from '@/ui/TextField.vue'

const props = defineProps<{
  jobId: string
  stateId: string
  runner: number
  cell: Schemas['PortCell']
  what: 'section' | 'wall'
  hour: number
}>()
const emit = defineEmits<{ saved: [what: 'section' | 'wall']; leave: [] }>()
const { personId } = useSession()
const typed = ref('')
const hour = ref(String(props.hour))
const holds = ref('wall')
const problem = ref<Problem>()
const field = ref<{ select: () => void }>()
const HOLDS = [
  { label: 'a wall', value: 'wall' },
  { label: 'a thin spot', value: 'spot' },
  { label: 'water behind', value: 'water' },
]
/** Round the clock from where the cut is deepest. */
const next = computed(() => String(((Number(hour.value) + 2) % 12) + 1))
watch(
  () => [props.cell, props.what, props.runner],
  () => void nextTick(() => field.value?.select()),
)

async function save(patch: Record<string, unknown> = {}): Promise<void> {
  const text = typeof patch['typed'] === 'string' ? patch['typed'] : typed.value
  if (!text.trim()) return emit('leave')
  const path = { reading_id: newId() }
  const common = {
    person_id: personId.value,
    job_id: props.jobId,
    part_state_id: props.stateId,
    cylinder: props.runner,
    place: `${props.cell.place_mm} mm`,
    taken_at: now(),
    typed: text,
  }
  try {
    if (props.what === 'section')
      await told(
        api.PUT('/api/section-readings/{reading_id}', { params: { path }, body: { ...common, ...patch } }),
      )
    else
      await told(
        api.PUT('/api/wall-readings/{reading_id}', {
          params: { path },
          body: { ...common, hour: hour.value, holds: holds.value, ...patch } as never,
        }),
      )
    problem.value = undefined
    typed.value = ''
    if (props.what === 'wall') hour.value = next.value
    emit('saved', props.what)
    await nextTick()
    field.value?.select()
  } catch (caught) {
    problem.value = problemIn(caught, 'Your entry is still here; press Enter to retry.')
  }
}
</script>

<template>
  <form class="entry" @submit.prevent="save()" @keydown.esc="emit('leave')">
    <template v-if="what === 'section'">
      <TextField
        ref="field"
        v-model="typed"
        label="Section, mm: 42 · 38 x 44 r 6 · D 42 x 36 · 1219 mm2"
        wide
        focus
        :place="'typed'"
      />
    </template>
    <template v-else>
      <TextField ref="field" v-model="typed" label="Wall, mm" focus :place="'typed'" />
      <TextField v-model="hour" label="at o'clock" />
      <ChoiceField v-model="holds" label="which is" :options="HOLDS" />
    </template>
    <div class="ways">
      <Button type="submit" size="small">Save <KeyCap k="Enter" /></Button>
      <Button size="small" outlined @click="emit('leave')">Cancel <KeyCap k="Esc" /></Button>
    </div>
    <ProblemNote v-if="problem" :problem="problem" @choose="save" />
  </form>
</template>

<style scoped src="./entry.css"></style>

<style scoped>
.entry {
  grid-template-columns: 92px 82px 1fr;
}
</style>
