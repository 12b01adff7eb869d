<script setup lang="ts">
/** What came in, and what is asked of engine and job, one question after another, beside the engine as it is drawn. */
import { useAsyncState } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import AirPath from '@/airpath/AirPath.vue'
import { listed } from '@/airpath/layout'
import { api, newId, problemIn, Refused, told, Unreachable, type Problem } from '@/api/client'
import { useSheet } from '@/api/sheet'
import { useJob } from '@/frame/job'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import { useSession } from '@/frame/session'
import { offerUndo } from '@/frame/undo'
import { figure } from '@/ui/figures'
import Margin from '@/ui/Margin.vue'
import NotShown from '@/ui/NotShown.vue'
import PhotoStrip from '@/ui/PhotoStrip.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import PutAway from '@/ui/PutAway.vue'
import { useKept } from '@/ui/useKept'
import { day } from '@/ui/words'
import Conversation from './Conversation.vue'
import { engineBody, readEngine, type EngineForm } from './engineForm'
import EnginePicture from './EnginePicture.vue'
import { jobBody, readJob, type JobForm } from './jobForm'
import ReceiptPanel from './ReceiptPanel.vue'

const { id: jobId, job, reload } = useJob()
const { units, personId, shop } = useSession()
const router = useRouter()
const path = { job_id: jobId }
const { sheet, load, failure } = useSheet(
  () => told(api.GET('/api/jobs/{job_id}/checkin', { params: { path, query: { units: units.value } } })),
  [units],
)
const receipt = ref<InstanceType<typeof ReceiptPanel>>()
const photos = ref<InstanceType<typeof PhotoStrip>>()
const problem = ref<Problem>()
async function again(): Promise<void> {
  await reload()
  await load()
}
const engine = useKept<EngineForm>(
  `engine.${jobId}`,
  () => readEngine(sheet.value?.engine),
  (form, version) =>
    told(
      api.PATCH('/api/jobs/{job_id}/engine', {
        params: { path },
        body: { version, engine: engineBody(form) },
      }),
    ),
  again,
)
const work = useKept<JobForm>(
  `check-in.${jobId}`,
  () => readJob(job.value, sheet.value),
  (form, version) =>
    told(api.PATCH('/api/jobs/{job_id}', { params: { path }, body: { ...jobBody(form), version } })),
  again,
)
/** What follows from the engine as it is being typed. */
const follow = useAsyncState(
  () =>
    told(
      api.POST('/api/engine/following', {
        params: { query: { units: units.value } },
        body: {
          cylinder_count: sheet.value?.engine.cylinder_count ?? 1,
          engine: engineBody(engine.form.value),
        },
      }),
    ),
  [],
  { immediate: false, resetOnExecute: false, throwError: true, onError: () => undefined },
)
watch(
  [job, sheet],
  ([j, s]) => {
    if (!j || !s) return
    work.refill(readJob(j, s), j.version)
    engine.refill(readEngine(s.engine), s.engine.version)
    follow.state.value = s.engine.following
  },
  { immediate: true },
)

/** What is wrong with what is being typed; it is refused only when it is saved. */
const noticed = ref<Problem>()
watch(engine.kept, () => (noticed.value = undefined))
async function followTyped(): Promise<void> {
  try {
    await follow.execute()
    noticed.value = engine.problem.value = undefined
  } catch (error) {
    if (error instanceof Refused) noticed.value = error.problem
    else if (!(error instanceof Unreachable)) throw error
  }
}

const posted = computed(() => job.value?.kind === 'port_by_post')
const cylinders = computed(() => sheet.value?.engine.cylinder_count ?? 1)
/** Cylinders by bank: as the path's runners stand, else one after another. */
const banks = computed(() => {
  const tree = job.value?.builds[0]?.path
  const drawn = new Map<number, number[]>()
  for (const e of tree ? listed(tree) : [])
    if (e.kind === 'runner' && e.bank != null && e.cylinder != null)
      drawn.set(e.bank, [...(drawn.get(e.bank) ?? []), e.cylinder])
  if (drawn.size > 1) return [...drawn.values()]
  const count = Math.min(cylinders.value, Math.max(1, Number(engine.form.value.banks) || 1))
  const each = Math.ceil(cylinders.value / count)
  return Array.from({ length: count }, (_, b) =>
    Array.from({ length: Math.min(each, cylinders.value - b * each) }, (_, i) => b * each + i + 1),
  )
})
const order = computed(() =>
  engine.form.value.order
    .split(/[^0-9]+/)
    .filter(Boolean)
    .map(Number),
)

async function tried(work: () => Promise<unknown>): Promise<void> {
  try {
    await work()
    problem.value = undefined
  } catch (error) {
    problem.value = problemIn(error, 'Nothing was changed.')
  }
}
/** Another box of the same kind came in: a job like this one, nothing measured yet. */
const copy = () =>
  tried(async () => {
    const id = newId()
    const body = { person_id: personId.value, copy_of: jobId }
    await told(api.PUT('/api/job-copies/{job_id}', { params: { path: { job_id: id } }, body }))
    await router.push('/')
    await router.push(`/jobs/${id}/checkin`)
  })
const nextEngine = () =>
  tried(async () => {
    const params = { path: { job_id: jobId, engine_id: newId() } }
    await told(api.PUT('/api/jobs/{job_id}/engine-versions/{engine_id}', { params }))
    await again()
  })
const putAway = (archived: boolean, on = job.value?.version ?? 0) =>
  tried(async () => {
    await told(api.POST('/api/jobs/{job_id}/away', { params: { path }, body: { version: on, archived } }))
    if (!archived) return reload()
    offerUndo(`“${job.value?.title ?? 'Job'}” put away`, () =>
      told(
        api.POST('/api/jobs/{job_id}/away', { params: { path }, body: { version: on + 1, archived: false } }),
      ),
    )
    await router.push('/')
  })
const remove = () =>
  tried(async () => {
    const version = job.value?.version ?? 0
    await told(api.DELETE('/api/jobs/{job_id}', { params: { path, query: { version } } }))
    await router.push('/')
  })

useKeys([
  { key: 'a', says: 'add received item', run: () => receipt.value?.focus() },
  { key: 'p', says: 'add photo', run: () => photos.value?.choose() },
  { key: 'c', says: 'new job from this one', run: () => void copy() },
])
</script>

<template>
  <div v-if="job && sheet" class="takein">
    <div class="sheet">
      <header class="wide">
        <h1>{{ job.title }}</h1>
        <span class="narrow quiet">{{
          [job.customer && `for ${job.customer}`, job.kind_title].filter(Boolean).join(' · ')
        }}</span>
      </header>
      <AirPath
        v-if="job.builds.length"
        class="wide"
        :tree="job.builds.at(-1)!.path"
        size="band"
        :height="Math.max(110, Math.min(190, cylinders * 22))"
        label="Air path as it is known"
      />
      <Conversation
        :posted="posted"
        :engine="engine"
        :job="work"
        :following="follow.state.value"
        :standards="shop?.standards ?? []"
        :version="sheet.engine.engine_version"
        :noticed="noticed"
        @follow="followTyped"
        @version="nextEngine"
      />
      <div class="beside">
        <EnginePicture
          v-if="!posted || sheet.engine.engine"
          :cylinders="cylinders"
          :banks="banks"
          :bore="figure(engine.form.value.bore)"
          :stroke="figure(engine.form.value.stroke)"
          :order="order"
        />
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
            <button type="button" class="way" @click="copy">New job from this one <KeyCap k="C" /></button>
          </p>
          <ProblemNote v-if="problem" :problem="problem" />
          <PutAway
            what="job"
            :archived="job.archived"
            @away="(archived) => putAway(archived)"
            @remove="remove"
          />
        </section>
      </div>
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
  grid-template-columns: minmax(0, 1.25fr) minmax(0, 1fr);
  grid-auto-rows: max-content;
  gap: 8px 32px;
  align-content: start;
  padding: 10px 24px 22px;
  overflow-y: auto;
}
.wide {
  grid-column: 1 / -1;
}
header {
  display: flex;
  gap: 14px;
  align-items: baseline;
}
.beside,
.came {
  display: grid;
  gap: 10px;
  align-content: start;
  min-width: 0;
}
.after {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 18px;
  align-items: center;
}
@media (max-width: 1000px) {
  .takein,
  .sheet {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
