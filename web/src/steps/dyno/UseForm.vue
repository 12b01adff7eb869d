<script setup lang="ts">
/** Another band to look at, or a use of the job with a name: by a band, by gears and shift speed, or by a log. */
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { api, asBytes, problemIn, told, type Problem, type Schemas } from '@/api/client'
import KeyCap from '@/frame/KeyCap.vue'
import { useJob } from '@/frame/job'
import ChoiceField from '@/ui/ChoiceField.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import TextField from '@/ui/TextField.vue'
import { figure, sent, whole } from '@/ui/figures'
import { provideRefusal } from '@/ui/refusal'

const props = defineProps<{
  use: Schemas['UseView'] | undefined
  offered: Schemas['OfferedUse'][]
}>()
const emit = defineEmits<{ look: [band: [number, number]]; kept: [name: string]; leave: [] }>()
const { id: jobId } = useJob()
const HOWS = [
  { label: 'a band of speeds', value: 'band' },
  { label: 'gears and shift speed', value: 'gears' },
  { label: 'a log of engine speed', value: 'log' },
]
const how = ref<string>(props.use?.kept ? props.use.by : 'band')
const low = ref(props.use?.low_rpm.toFixed(0) ?? '')
const high = ref(props.use?.high_rpm.toFixed(0) ?? '')
const name = ref(props.use?.kept ? props.use.name : '')
const gears = ref('')
const shift = ref(props.use?.high_rpm.toFixed(0) ?? '')
const away = ref('')
const log = ref<File>()
const problem = ref<Problem>()
provideRefusal(problem)
const named = computed(() => !!name.value.trim())

type NewUse = Partial<Schemas['NewUse']>
async function keep(speeds: NewUse, kept = name.value): Promise<void> {
  problem.value = undefined
  try {
    const body = { ...speeds, name: kept }
    await told(api.POST('/api/jobs/{job_id}/uses', { params: { path: { job_id: jobId } }, body }))
    emit('kept', Object.keys(speeds).length ? kept : '')
  } catch (caught) {
    problem.value = problemIn(caught, 'Try again.')
  }
}

/** Ratios as they are written: by blanks, semicolons or lines, with point or comma. */
const ratios = () =>
  gears.value
    .split(/[\s;/]+/)
    .filter(Boolean)
    .map((text) => figure(text))

async function logDigest(): Promise<string | undefined> {
  if (!log.value) return undefined
  const bytes = await log.value.arrayBuffer()
  const query = { name: log.value.name }
  return (await told(api.POST('/api/dyno/preview', { params: { query }, ...asBytes(bytes) }))).digest
}

const refuse = (detail: string, path: string) =>
  (problem.value = { type: '', title: '', status: 422, code: 'invalid', detail, path })

async function set(): Promise<void> {
  problem.value = undefined
  if (how.value === 'gears') {
    const typed = ratios()
    if (!typed.length || typed.includes(null))
      return void refuse(`'${gears.value}' are no ratios. Type such as 3.2 2.0 1.4 1.0.`, 'gears')
    return keep({ gears: typed as number[], shift_rpm: sent(shift.value), away_rpm: sent(away.value) })
  }
  if (how.value === 'log') {
    const log_digest = await logDigest().catch((caught: unknown) => {
      problem.value = problemIn(caught, 'Try again.')
      return undefined
    })
    return log_digest ? keep({ log_digest }) : void (problem.value ??= refuse('Choose the log.', 'log'))
  }
  const [from, to] = [whole(low.value), whole(high.value)]
  if (from === null || to === null || from >= to)
    refuse(`'${low.value}' to '${high.value}' rpm is no band. Type two speeds, the lower first.`, 'low_rpm')
  else if (named.value) await keep({ low_rpm: from, high_rpm: to })
  else emit('look', [from, to])
}

function begin(one: Schemas['OfferedUse']): void {
  how.value = 'band'
  name.value = one.name
  low.value = one.low_rpm.toFixed(0)
  high.value = one.high_rpm.toFixed(0)
}
</script>

<template>
  <form class="use-form" @submit.prevent="set" @keydown.esc="emit('leave')">
    <div class="fields">
      <ChoiceField v-model="how" label="By" small :options="HOWS" />
      <template v-if="how === 'band'">
        <TextField v-model="low" label="From, rpm" small focus inputmode="numeric" place="low_rpm" />
        <TextField v-model="high" label="To, rpm" small inputmode="numeric" />
      </template>
      <template v-else-if="how === 'gears'">
        <TextField
          v-model="gears"
          class="wide"
          label="Ratios of the gears that are used"
          small
          placeholder="3.2 2.0 1.4 1.0"
          place="gears"
        />
        <TextField v-model="shift" label="Shifts up at, rpm" small place="shift_rpm" />
        <TextField v-model="away" label="Pulls away at, rpm" small placeholder="2500" place="away_rpm" />
      </template>
      <label v-else class="file narrow">
        CSV, TSV or XLSX with a column of rpm; time and throttle count where they are logged
        <input
          type="file"
          accept=".csv,.tsv,.txt,.xlsx"
          @change="log = ($event.target as HTMLInputElement).files?.[0]"
        />
      </label>
      <TextField v-model="name" label="Keep as a use named" small placeholder="slalom" place="name" />
      <Button type="submit" size="small" :disabled="how !== 'band' && !named">
        {{ how === 'band' && !named ? 'Look at it' : 'Keep it' }} <KeyCap k="Enter" />
      </Button>
      <Button v-if="use?.kept" outlined size="small" @click="keep({}, use.name)"
        >Take {{ use.name }} away</Button
      >
    </div>
    <div v-if="offered.length" class="ways narrow">
      <span class="quiet">Usual ones:</span>
      <button v-for="o in offered" :key="o.name" type="button" class="way" @click="begin(o)">
        {{ o.name }} {{ o.low_rpm.toFixed(0) }}–{{ o.high_rpm.toFixed(0) }}
      </button>
    </div>
    <ProblemNote v-if="problem" :problem="problem" give-up="leave it as it was" @give-up="emit('leave')" />
  </form>
</template>

<style scoped>
.use-form {
  display: grid;
  gap: 8px;
}
.fields {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: end;
}
.file {
  display: grid;
  gap: 4px;
  max-width: 320px;
}
.ways {
  align-items: center;
}
</style>
