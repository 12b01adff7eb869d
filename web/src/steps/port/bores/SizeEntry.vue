<script setup lang="ts">
/** What is read off the gauge at one depth, or one size of the part: each figure is a reading of its own. */
import Button from 'primevue/button'
import { nextTick, reactive, ref } from 'vue'
import { api, newId, now, problemIn, told, type Problem } from '@/api/client'
import KeyCap from '@/frame/KeyCap.vue'
import { useSession } from '@/frame/session'
import ProblemNote from '@/ui/ProblemNote.vue'
import { provideRefusal } from '@/ui/refusal'
import TextField from '@/ui/TextField.vue'
import type { Gauging } from './gauging'

const props = defineProps<{ jobId: string; stateId: string; kind: string; gauging: Gauging }>()
const emit = defineEmits<{ saved: []; leave: [] }>()
const { personId } = useSession()
const problem = ref<Problem>()
provideRefusal(problem)
const place = ref(props.gauging.place ?? '')
const typed = reactive(props.gauging.figures.map(() => ''))
const at = ref(0)
const fields = ref<{ select: () => void }[]>([])

/** In turn; one that is asked about or refused keeps the rest until it is answered. */
async function save(patch: Record<string, unknown> = {}): Promise<void> {
  if (typed.every((text) => !text.trim())) return emit('leave')
  let answer = patch
  for (const [n, figure] of props.gauging.figures.entries()) {
    if (!typed[n]?.trim()) continue
    at.value = n
    const body = {
      person_id: personId.value,
      job_id: props.jobId,
      part_state_id: props.stateId,
      element_kind: props.kind,
      quantity: props.gauging.quantity,
      typed: typed[n],
      taken_at: now(),
      ...(figure.hour == null
        ? {}
        : { place: place.value, hour: String(figure.hour), barrel: props.gauging.barrel }),
      ...answer,
    }
    try {
      await told(
        api.PUT('/api/dimensions/{reading_id}', {
          params: { path: { reading_id: newId() } },
          body: body as never,
        }),
      )
    } catch (caught) {
      if (typeof answer['typed'] === 'string') typed[n] = answer['typed']
      problem.value = problemIn(caught, 'Your entry is still here; press Enter to retry.')
      if (!problem.value.path || problem.value.path === 'typed') {
        await nextTick()
        fields.value[n]?.select()
      }
      return
    }
    answer = {}
    typed[n] = ''
  }
  problem.value = undefined
  emit('saved')
}
</script>

<template>
  <form class="entry" @submit.prevent="save()" @keydown.esc="emit('leave')">
    <TextField
      v-if="gauging.quantity === 'across'"
      v-model="place"
      label="Depth from the entry face, mm"
      place="place"
      wide
      :focus="!gauging.place"
    />
    <TextField
      v-for="(figure, n) in gauging.figures"
      :key="figure.label"
      ref="fields"
      v-model="typed[n]!"
      :label="figure.label"
      :wide="gauging.figures.length === 1"
      :invalid="!!problem && n === at && problem.path === 'typed'"
      :focus="!!gauging.place && n === 0"
    />
    <div class="ways">
      <Button type="submit" size="small">Save <KeyCap k="Enter" /></Button>
      <Button size="small" outlined @click="emit('leave')">Cancel <KeyCap k="Esc" /></Button>
    </div>
    <ProblemNote v-if="problem" :problem="problem" @choose="save" />
  </form>
</template>

<style scoped src="../entry.css"></style>
