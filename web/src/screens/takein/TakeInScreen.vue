<script setup lang="ts">
/** What was said when the job was taken in, to be put right. A stale edit shows both versions. */
import Button from 'primevue/button'
import { ref, watch } from 'vue'
import { patch, Refused, type Problem, type Schemas } from '@/api/client'
import { whole } from '@/shared/figures'
import KeyCap from '@/shared/KeyCap.vue'
import ProblemNote from '@/shared/ProblemNote.vue'
import { day } from '@/shared/words'
import { useJob } from '../job'
import TextField from '@/shared/TextField.vue'
import ChoiceField from '@/shared/ChoiceField.vue'

const { id: jobId, job, reload } = useJob()
const form = ref(read(job.value))
const version = ref(job.value?.version ?? 0)
const problem = ref<Problem>()
const kept = ref(false)
const STANDARDS = [
  { value: 'sae_j1349', label: 'SAE J1349' },
  { value: 'iso_1585', label: 'ISO 1585' },
  { value: 'observed', label: 'as observed' },
]
const FIELD_WORDS: Record<string, string> = {
  title: 'name',
  customer: 'customer',
  use: 'use',
  band_low_rpm: 'band from',
  band_high_rpm: 'band to',
  due_on: 'due',
  standard: 'correction',
  note: 'note',
}

function read(j: Schemas['JobView'] | undefined) {
  return {
    title: j?.title ?? '',
    customer: j?.customer ?? '',
    use: j?.use ?? '',
    low: j?.band_low_rpm?.toString() ?? '',
    high: j?.band_high_rpm?.toString() ?? '',
    due: j?.due_on ?? '',
    standard: j?.standard ?? 'sae_j1349',
    note: j?.note ?? '',
  }
}
watch(job, (now, before) => {
  if (before) return
  form.value = read(now)
  version.value = now?.version ?? 0
})

function body() {
  const f = form.value
  return {
    title: f.title,
    customer: f.customer || null,
    use: f.use || null,
    band_low_rpm: whole(f.low),
    band_high_rpm: whole(f.high),
    due_on: f.due || null,
    standard: f.standard,
    note: f.note,
  }
}

async function keep(): Promise<void> {
  kept.value = false
  try {
    await patch(`/api/jobs/${jobId}`, { ...body(), version: version.value })
    problem.value = undefined
    kept.value = true
    await reload()
    version.value = job.value?.version ?? 0
  } catch (error) {
    if (error instanceof Refused) problem.value = error.problem
    else
      problem.value = {
        type: '',
        title: '',
        status: 503,
        code: 'unreachable',
        detail: 'Elvarn does not answer. What you typed stays here; press Enter again.',
      }
  }
}

const differs = (name: string): boolean =>
  name !== 'version' &&
  String(problem.value?.current?.[name] ?? '') !== String(problem.value?.yours?.[name] ?? '')

/** Mine counts: the same edit, made on the version that is there now. */
function keepMine(): void {
  version.value = Number(problem.value?.current?.['version'])
  void keep()
}

async function takeTheirs(): Promise<void> {
  await reload()
  form.value = read(job.value)
  version.value = job.value?.version ?? 0
  problem.value = undefined
}
</script>

<template>
  <div v-if="job" class="takein">
    <form @submit.prevent="keep">
      <TextField label="Name of the job" wide v-model="form.title" :invalid="problem?.path === 'title'" />
      <TextField label="Customer" v-model="form.customer" />
      <TextField label="Due" v-model="form.due" type="date" />
      <TextField label="Use" wide v-model="form.use" placeholder="road, hill climb, work boat" />
      <TextField
        label="Band that matters from, rpm"
        v-model="form.low"
        inputmode="numeric"
        :invalid="problem?.path?.startsWith('band')"
      />
      <TextField
        label="to, rpm"
        v-model="form.high"
        inputmode="numeric"
        :invalid="problem?.path?.startsWith('band')"
      />
      <ChoiceField label="Pulls corrected to" v-model="form.standard" :options="STANDARDS" />
      <div class="field">
        <span class="label">Came in</span>
        <span class="value">{{ day(job.received_on) }} · {{ job.kind_title }}</span>
      </div>
      <TextField label="Note: earlier work, cracks, what is missing" wide v-model="form.note" />
      <div v-if="problem?.code === 'stale'" class="stale wide" role="alert">
        <p>{{ problem.detail }}</p>
        <table>
          <thead>
            <tr>
              <th></th>
              <th>there now</th>
              <th>yours</th>
            </tr>
          </thead>
          <tbody>
            <template v-for="(value, name) in problem.yours" :key="name">
              <tr v-if="differs(String(name))">
                <td class="quiet">{{ FIELD_WORDS[name] ?? name }}</td>
                <td>{{ problem.current?.[name] ?? '–' }}</td>
                <td>{{ value ?? '–' }}</td>
              </tr>
            </template>
          </tbody>
        </table>
        <div class="ways">
          <Button size="small" @click="keepMine">Mine counts</Button>
          <Button size="small" outlined @click="takeTheirs">Take what is there</Button>
        </div>
      </div>
      <ProblemNote v-else-if="problem" class="wide" :problem="problem" />
      <Button type="submit" class="wide go">Keep <KeyCap k="Enter" /></Button>
      <p v-if="kept" class="wide quiet" role="status">Kept.</p>
    </form>
    <aside class="margin-text">
      <h3>Parts</h3>
      <p v-for="p in job.parts" :key="p.id">
        {{ p.name }} <span class="quiet">{{ p.maker }} {{ p.number }}</span>
      </p>
      <h3>Before anything comes off</h3>
      <p>Stock is pulled first where an engine is there: afterwards there is no stock to compare with.</p>
    </aside>
  </div>
</template>

<style scoped>
.takein {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 280px;
}
form {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 14px 22px;
  width: 100%;
  max-width: 680px;
  padding: 22px 28px;
  align-content: start;
}
.wide {
  grid-column: 1 / -1;
}
.value {
  padding: 8px 0;
}
.go {
  justify-content: space-between;
}
.stale {
  display: grid;
  gap: 8px;
  padding: 10px 14px;
  border-left: 4px solid var(--doubt);
  background: var(--doubt-wash);
}
.stale th,
.stale td {
  padding: 2px 18px 2px 0;
  text-align: left;
  font-weight: 500;
}
.margin-text {
  display: grid;
  align-content: start;
  gap: 8px;
  padding: 18px 22px;
  border-left: 1px solid var(--hair);
}
@media (max-width: 1000px) {
  .takein {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
