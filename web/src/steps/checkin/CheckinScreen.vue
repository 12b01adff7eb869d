<script setup lang="ts">
/**
 * What came in, the engine with what follows from it, and what was said of the job, to be put right. A stale edit shows
 * both versions.
 */
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, newId, problemIn, told, type Problem, type Schemas } from '@/api/client'
import { useSheet } from '@/api/sheet'
import { asTyped, sent } from '@/ui/figures'
import { useEdited } from '@/ui/draft'
import { provideRefusal } from '@/ui/refusal'
import { useKeys } from '@/frame/keys'
import Margin from '@/ui/Margin.vue'
import PhotoStrip from '@/ui/PhotoStrip.vue'
import { useSession } from '@/frame/session'
import EnginePanel from './EnginePanel.vue'
import SurroundingsFields from './SurroundingsFields.vue'
import { readSurroundings, writtenSurroundings } from './surroundings'
import ReceiptPanel from './ReceiptPanel.vue'
import KeyCap from '@/frame/KeyCap.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import { day } from '@/ui/words'
import { useJob } from '@/frame/job'
import SavedNote from '@/ui/SavedNote.vue'
import TextField from '@/ui/TextField.vue'
import ChoiceField from '@/ui/ChoiceField.vue'
import NotShown from '@/ui/NotShown.vue'

const { id: jobId, job, reload } = useJob()
const { units, personId, shop } = useSession()
const router = useRouter()
const { sheet, load, failure } = useSheet(
  () =>
    told(
      api.GET('/api/jobs/{job_id}/checkin', {
        params: { path: { job_id: jobId }, query: { units: units.value } },
      }),
    ),
  [units],
)
const receipt = ref<InstanceType<typeof ReceiptPanel>>()
const enginePanel = ref<InstanceType<typeof EnginePanel>>()
const photos = ref<InstanceType<typeof PhotoStrip>>()
const {
  form: edited,
  version,
  refill,
  settled,
  givenUp,
  undoable,
  bringBack,
} = useEdited<ReturnType<typeof read>>(`check-in.${jobId}`)
const form = computed(() => edited.value ?? read(undefined, undefined))
const problem = ref<Problem>()
provideRefusal(problem)
const kept = ref(false)
const standards = computed(() => shop.value?.standards ?? [])
const FIELD_WORDS: Record<string, string> = {
  title: 'name',
  customer: 'customer',
  use: 'use',
  band_low_rpm: 'band from',
  band_high_rpm: 'band to',
  due_on: 'due',
  standard: 'correction',
  note: 'note',
  power_wanted_kw: 'power wanted, kW',
  budget: 'budget',
}

/** What was said of the job: by its head, and with the goal in figures and what the vehicle asks of a part. */
function read(j: Schemas['JobView'] | undefined, s: Schemas['CheckinSheet'] | undefined) {
  const text = (v: number | null | undefined, place: string) => asTyped(s?.typed, place, v)
  return {
    title: j?.title ?? '',
    customer: j?.customer ?? '',
    use: j?.use ?? '',
    due: j?.due_on ?? '',
    standard: j?.standard ?? 'sae_j1349',
    note: j?.note ?? '',
    power:
      s?.typed['power_wanted'] ?? (s?.power_wanted ? `${s.power_wanted.text} ${s.power_wanted.unit}` : ''),
    low: s?.typed['band_low_rpm'] ?? j?.band_low_rpm?.toString() ?? '',
    high: s?.typed['band_high_rpm'] ?? j?.band_high_rpm?.toString() ?? '',
    budget: text(s?.budget, 'budget'),
    around: readSurroundings(s?.surroundings, s?.typed),
  }
}

watch(
  [job, sheet],
  ([j, s]) => {
    if (j && s) refill(read(j, s), j.version)
  },
  { immediate: true },
)

/** Another box of the same kind came in: a job like this one, nothing measured yet. */
async function again(): Promise<void> {
  const id = newId()
  try {
    await told(
      api.PUT('/api/job-copies/{job_id}', {
        params: { path: { job_id: id } },
        body: { person_id: personId.value, copy_of: jobId },
      }),
    )
    await router.push('/')
    await router.push(`/jobs/${id}/checkin`)
  } catch (error) {
    problem.value = problemIn(error, 'Try again.')
  }
}

useKeys([
  { key: 'a', says: 'add received item', run: () => receipt.value?.focus() },
  { key: 'p', says: 'add photo', run: () => photos.value?.choose() },
  { key: 'e', says: 'edit engine', run: () => enginePanel.value?.focus() },
  { key: 'c', says: 'new job from this one', run: () => void again() },
])

function body() {
  const f = form.value
  return {
    title: f.title,
    customer: f.customer || null,
    use: f.use || null,
    band_low_rpm: sent(f.low),
    band_high_rpm: sent(f.high),
    due_on: f.due || null,
    standard: f.standard,
    note: f.note,
    power_wanted: f.power || null,
    budget: sent(f.budget),
    surroundings: writtenSurroundings(f.around),
  }
}

async function keep(): Promise<void> {
  kept.value = false
  try {
    await told(
      api.PATCH('/api/jobs/{job_id}', {
        params: { path: { job_id: jobId } },
        body: { ...body(), version: version.value },
      }),
    )
    problem.value = undefined
    kept.value = true
    settled()
    await reload()
    await load()
  } catch (error) {
    problem.value = problemIn(error, 'Your entry is still here; press Enter to retry.')
  }
}

const differs = (name: string): boolean =>
  name !== 'version' &&
  name !== 'surroundings' &&
  String(problem.value?.current?.[name] ?? '') !== String(problem.value?.yours?.[name] ?? '')

/** Keep mine: the same edit, made on the version that is there now. */
function keepMine(): void {
  version.value = Number(problem.value?.current?.['version'])
  void keep()
}

async function takeTheirs(): Promise<void> {
  givenUp()
  await reload()
  await load()
  problem.value = undefined
}
</script>

<template>
  <div v-if="job && sheet" class="takein">
    <div class="sheet">
      <section class="came" aria-label="Received">
        <h2>
          Received
          <span class="narrow quiet"
            >{{ day(job.received_on) }} · {{ job.kind_title
            }}{{ sheet.copied_from ? ` · copied from ${sheet.copied_from}` : '' }}</span
          >
        </h2>
        <ReceiptPanel ref="receipt" :job-id="jobId" :items="sheet.items" @changed="load" />
        <PhotoStrip ref="photos" :photos="sheet.photos" :job-id="jobId" key-cap="P" @added="load" />
        <p class="after">
          <a :href="`/api/jobs/${jobId}/receipt.pdf`" target="_blank">Print receipt and return list</a>
          <button type="button" class="way" @click="again">New job from this one <KeyCap k="C" /></button>
        </p>
      </section>
      <EnginePanel
        v-if="job.kind !== 'port_by_post' || sheet.engine.engine"
        ref="enginePanel"
        :job-id="jobId"
        :sheet="sheet.engine"
        @kept="
          async () => {
            await reload()
            await load()
          }
        "
      />
      <form aria-label="The job" @submit.prevent="keep">
        <h2 class="wide">Job</h2>
        <TextField label="Job name" v-model="form.title" small place="title" />
        <TextField label="Customer" v-model="form.customer" small />
        <TextField label="Due" v-model="form.due" type="date" small />
        <TextField label="Use" v-model="form.use" placeholder="road, hill climb, work boat" small />
        <TextField label="rpm band from" v-model="form.low" inputmode="numeric" small place="band_low_rpm" />
        <TextField label="rpm band to" v-model="form.high" inputmode="numeric" small place="band_high_rpm" />
        <TextField
          label="Target engine power"
          v-model="form.power"
          placeholder="230 hp"
          small
          place="power_wanted"
        />
        <TextField label="Budget" v-model="form.budget" small place="budget" />
        <ChoiceField
          label="Correct pulls to"
          v-model="form.standard"
          :options="standards"
          shown="label"
          kept="word"
          small
        />
        <SurroundingsFields v-model="form.around" :banks="sheet.engine.engine?.bank_count ?? 1" />
        <TextField label="Note" wide v-model="form.note" small />
        <div v-if="problem?.code === 'stale'" class="stale wide" role="alert">
          <p>{{ problem.detail }}</p>
          <table>
            <thead>
              <tr>
                <th></th>
                <th>theirs</th>
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
            <Button size="small" @click="keepMine">Keep mine</Button>
            <Button size="small" outlined @click="takeTheirs">Use theirs</Button>
          </div>
        </div>
        <ProblemNote v-else-if="problem" class="wide" :problem="problem" />
        <Button type="submit" class="go" size="small">Save <KeyCap k="Enter" /></Button>
        <SavedNote v-if="kept" class="wide quiet" :undoable="undoable" @undo="(bringBack(), keep())" />
      </form>
    </div>
    <Margin title="Check-in" :sentences="sheet.margin">
      <template #end>
        <h3>Parts</h3>
        <p v-for="p in job.parts" :key="p.id">
          <RouterLink :to="`/parts/${p.id}`">{{ p.name }}</RouterLink>{{ ' ' }}
          <span class="quiet">{{ p.maker }} {{ p.number }}</span>
        </p>
      </template>
    </Margin>
  </div>
  <NotShown v-else :why="failure" />
</template>

<style scoped>
.takein {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 280px;
  min-height: 0;
}
.sheet {
  display: grid;
  grid-template-columns: minmax(0, 1.05fr) minmax(0, 1fr);
  gap: 8px 32px;
  align-content: start;
  padding: 14px 24px 22px;
  overflow-y: auto;
}
.came {
  grid-row: span 2;
  display: grid;
  gap: 10px;
  align-content: start;
}
.after {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 18px;
  align-items: center;
}
form {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 8px 14px;
  align-content: start;
  align-items: end;
}
form :deep(.p-inputtext),
form :deep(.p-select) {
  width: 100%;
}
.wide {
  grid-column: 1 / -1;
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
@media (max-width: 1000px) {
  .takein,
  .sheet {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
