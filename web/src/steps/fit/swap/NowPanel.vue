<script setup lang="ts">
/** The task that is on: what to do, what to watch, what it waits for; decided, measured, noted and ticked here. */
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import type { Schemas } from '@/api/client'
import KeyCap from '@/frame/KeyCap.vue'
import { sent } from '@/ui/figures'
import PhotoStrip from '@/ui/PhotoStrip.vue'
import TextField from '@/ui/TextField.vue'
import { dayAndTime } from '@/ui/words'
import type { FitTask, Swap, Tick } from './useSwap'

const props = defineProps<{
  task: FitTask
  swap: Swap
  verbs: readonly string[]
  photos: Schemas['PhotoView'][]
  jobId: string
  isNow: boolean
  /** What is done here is shown in the slot: the way to say that it is done stands back. */
  within?: boolean
}>()
const emit = defineEmits<{ tick: [to: Tick]; decide: [verb: string, how: string]; photo: [] }>()
const note = ref('')
const minutes = ref('')
const reading = ref('')
const how = ref('')
const noteField = ref<InstanceType<typeof TextField>>()
const strip = ref<InstanceType<typeof PhotoStrip>>()
const strand = computed(() => props.swap.strands.find((s) => s.key === props.task.strand))
const titles = computed(() => new Map(props.swap.tasks.map((t) => [t.key, t.title])))
const waits = computed(() => props.task.waits.map((key) => titles.value.get(key) ?? key))
const here = computed(() => props.photos.filter((p) => p.task_id === props.task.id))
/** What is measured, and what was so far with its hour. */
const measured = computed(() => {
  const so = props.task.readings.map((r) => `${r.typed} (${dayAndTime(r.at)})`)
  return so.length ? `${props.task.asks}; so far ${so.join(', ')}` : props.task.asks
})
const deciding = ref(false)
const asked = computed(() => deciding.value || (!!strand.value?.question && props.task.state !== 'done'))
watch(
  () => props.task.key,
  () => {
    note.value = props.task.result ?? ''
    minutes.value = props.task.minutes?.toString() ?? ''
    reading.value = ''
    how.value = strand.value?.how ?? ''
    deciding.value = false
  },
  { immediate: true },
)

const said = (): Omit<Tick, 'state'> => ({
  minutes: sent(minutes.value) as never,
  result: note.value || null,
  reading: reading.value,
})
const done = () => emit('tick', { state: 'done', ...said() })
/** Measured once more, and more to come: idle over minutes. */
function keepReading(): void {
  emit('tick', { state: 'open', ...said() })
  reading.value = ''
}
const hold = () => emit('tick', { state: 'waiting', ...said() })
const open = () => emit('tick', { state: 'open' })
function decide(verb: string): void {
  emit('decide', verb, strand.value?.question ? '' : how.value)
  deciding.value = false
}
defineExpose({
  done,
  hold,
  decide: (n: number) => asked.value && props.verbs[n] && decide(props.verbs[n]),
  change: () => strand.value && !strand.value.part && (deciding.value = !deciding.value),
  toNote: () => noteField.value?.select(),
  photo: () => strip.value?.choose(),
})
</script>

<template>
  <section class="now" aria-label="Task">
    <p class="over narrow">
      <span class="quiet">{{ task.state === 'done' ? 'Done' : isNow ? 'Now' : 'Chosen' }}</span>
      <span class="stage"
        >{{ task.phase }}<template v-if="task.people > 1"> · {{ task.people }} people</template></span
      >
    </p>
    <h2>
      <span v-if="task.code" class="code mono">{{ task.code }}</span> {{ task.title }}
    </h2>
    <p v-if="task.how && !asked">{{ task.how }}</p>
    <p v-if="task.tools.length" class="quiet">With {{ task.tools.join(', ') }}.</p>
    <p v-if="asked && strand?.question" class="doubt">{{ strand.question }}</p>
    <div v-if="asked && strand" class="ways" role="group" aria-label="What is done">
      <button v-for="(v, n) in verbs" :key="v" type="button" class="way" @click="decide(v)">
        <KeyCap :k="`${n + 1}`" /> {{ v }}
      </button>
    </div>
    <p v-for="f in strand?.facts ?? []" :key="f" class="quiet fact">{{ f }}</p>
    <p v-if="task.waits.length" class="doubt" role="status">
      After: {{ waits.slice(0, 3).join('; ')
      }}<template v-if="waits.length > 3"> and {{ waits.length - 3 }} more</template>. {{ task.because }}.
    </p>
    <slot />
    <p v-for="d in task.doubts" :key="d" class="doubt">{{ d }}</p>
    <p v-if="task.done_at" class="quiet">
      {{ task.done_by }}, {{ dayAndTime(task.done_at)
      }}<template v-if="task.minutes"> · {{ task.minutes }} min</template>
      <template v-if="task.result"> · {{ task.result }}</template>
    </p>
    <form class="fields" @submit.prevent="done">
      <TextField v-if="task.asks" v-model="reading" :label="measured" place="reading" wide />
      <template v-if="task.state !== 'done' && !within">
        <TextField ref="noteField" v-model="note" label="Note" small />
        <TextField v-model="minutes" label="Minutes" small place="minutes" inputmode="decimal" />
      </template>
      <p class="doing">
        <Button v-if="task.state !== 'done' && within" type="submit" size="small" outlined
          >Whole task done</Button
        >
        <Button v-else-if="task.state !== 'done' && !asked" type="submit" class="main"
          >Done <KeyCap k="Space"
        /></Button>
        <Button v-else outlined @click="open">Open again <KeyCap k="U" /></Button>
        <Button v-if="task.asks && task.state !== 'done'" outlined @click="keepReading"
          >Keep, measure again</Button
        >
        <Button v-if="task.state === 'open'" outlined @click="hold">Stop <KeyCap k="S" /></Button>
      </p>
    </form>
    <PhotoStrip
      ref="strip"
      :photos="here"
      :job-id="jobId"
      :at="{ task_id: task.id, caption: `${task.code} ${task.title}`.trim() }"
      key-cap="F"
      @added="emit('photo')"
    />
  </section>
</template>

<style scoped>
.now {
  display: grid;
  gap: 8px;
  align-content: start;
}
.over {
  display: flex;
  justify-content: space-between;
}
.stage {
  font-weight: 600;
  color: var(--cut);
}
h2 {
  font: 600 25px/1.12 var(--sans);
}
.code {
  padding: 0 6px;
  border: 1.4px solid var(--ink);
  font-size: 20px;
}
.fact {
  line-height: 1.3;
}
.fields {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 92px;
  gap: 8px;
}
.fields :deep(input) {
  width: 100%;
}
.fields > .wide,
.doing {
  grid-column: 1 / -1;
}
.doing {
  display: flex;
  gap: 10px;
}
.now :deep(.photos .add) {
  grid-template-columns: 1fr auto;
}
.now :deep(.photos),
.now :deep(.photos .add) {
  width: 100%;
}
.main {
  flex: 1;
  min-height: 62px;
  font-size: 20px;
}
</style>
