<script setup lang="ts">
/**
 * The job's home: its air path large and to scale, under it how the pressure loss divides over the elements at an
 * engine speed, and what if a bore or a part were another.
 */
import Button from 'primevue/button'
import Select from 'primevue/select'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import AirPath from '@/airpath/AirPath.vue'
import type { PathElement } from '@/airpath/layout'
import { api, told, type Schemas } from '@/api/client'
import { useSheet } from '@/api/sheet'
import DropPlate from '@/charts/DropPlate.vue'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import Margin from '@/ui/Margin.vue'
import { useSession } from '@/frame/session'
import NotShown from '@/ui/NotShown.vue'
import Screen from '@/ui/Screen.vue'
import { engineFigures, useJob } from '@/frame/job'
import { useOnScreen } from '@/frame/onScreen'
import BuildDifference from './BuildDifference.vue'
import ElementPanel from './ElementPanel.vue'
import LossLedger from './LossLedger.vue'
import BuildName from './BuildName.vue'
import PathHead from './PathHead.vue'
import PathStory from './PathStory.vue'
import { listed } from '@/airpath/layout'
import { redrawn, shelfKind, smallestBore, together, useThought } from './thought'
import { useBuilds } from './useBuilds'
import { useMeasuring, type Answer } from './useMeasuring'

const { id: jobId, job, reload, failure: notThere } = useJob()
const { units } = useSession()
const router = useRouter()
const route = useRoute()
const buildIndex = ref(-1)
const selected = ref<string>()
const panel = ref<InstanceType<typeof ElementPanel>>()
function askShelf(query: { kind?: string; state?: string }) {
  return told(api.GET('/api/shelf', { params: { query: { units: units.value, ...query } } }))
}
/** A part that the address names, to be tried here. */
const named = typeof route.query['try'] === 'string' ? route.query['try'] : undefined
const { sheet: tried } = useSheet(() =>
  named ? askShelf({ state: named }) : Promise.resolve({ parts: [] as Schemas['ShelfCard'][] }),
)
const { sheet: shapes } = useSheet(() =>
  told(api.GET('/api/jobs/{job_id}/shapes', { params: { path: { job_id: jobId } } })),
)
const build = computed(() => job.value?.builds.at(buildIndex.value))
const elements = computed(() => (build.value ? listed(build.value.path) : []))
const element = computed(() => elements.value.find((e) => e.node_id === selected.value))
const kind = computed(() => element.value && shelfKind(element.value))
/** What the shelf has for the chosen element, by name, and what is tried there. */
const { sheet: ofKind } = useSheet(
  () =>
    kind.value ? askShelf({ kind: kind.value }) : Promise.resolve({ parts: [] as Schemas['ShelfCard'][] }),
  [kind],
)
const parts = computed(() => {
  const found = [...(ofKind.value?.parts ?? []), ...(tried.value?.parts ?? [])]
  return found.filter((p, i) => p.kind === kind.value && found.findIndex((q) => q.id === p.id) === i)
})
const { rpm, thoughts, solution, failure, swaps, solve, think, widen, turn, turnBench, setRpm, putBack } =
  useThought(build, units)
const { problem, measure } = useMeasuring(jobId, build, reload)
const {
  problem: refusal,
  keepAsBuild,
  putIn,
  takeOut,
  shape,
  rename,
  remove,
} = useBuilds(jobId, build, async () => {
  await reload()
  selected.value = undefined
  if (!naming.value) buildIndex.value = -1
})
const naming = ref(false)
/** Named or taken away: the screen stays at the build, or goes to the latest. */
async function nameBuild(name: string): Promise<void> {
  await rename(name)
  if (!refusal.value) naming.value = false
}
async function removeBuild(): Promise<void> {
  await remove()
  if (refusal.value) return
  naming.value = false
  buildIndex.value = -1
}
const tree = computed(() => build.value && redrawn(build.value.path, thoughts.value))
const row = computed(() => solution.value?.rows.find((r) => r.node_ids.includes(selected.value ?? '')))
const candidates = computed(() => {
  const kind = element.value ? `&kind=${shelfKind(element.value)}` : ''
  return `/jobs/${jobId}/candidates?build=${build.value?.id ?? ''}${kind}`
})
const shares = computed(() => {
  const rows = solution.value?.rows ?? []
  const most = Math.max(0, ...rows.map((r) => r.share_percent ?? 0))
  return new Map(
    rows.flatMap((r) =>
      r.node_ids.map((id) => [id, (r.share_percent ?? 0) > 0 && r.share_percent === most] as const),
    ),
  )
})
const pinched = computed(() => new Set([...shares.value].filter(([, p]) => p).map(([id]) => id)))
const ports = computed(() => elements.value.filter((e) => e.kind === 'runner').length)
const height = computed(() => Math.max(220, Math.min(window.innerHeight - 585, 70 + ports.value * 40)))

onMounted(() => void solve())
/** The address may name a build, and a candidate to be tried in it: once job and shelf are there. */
const opening = watch(
  [job, tried],
  async () => {
    const at = job.value?.builds.findIndex((b) => b.id === route.query['build']) ?? -1
    if (at >= 0) buildIndex.value = at
    if (!job.value || !tried.value) return
    opening()
    await nextTick()
    tryOut(tried.value.parts[0])
  },
  { flush: 'post' },
)

/** A candidate to be tried, named by the address: its element is chosen, and it stands there in thought. */
function tryOut(part: Schemas['ShelfCard'] | undefined): void {
  const at = part && elements.value.find((e) => shelfKind(e) === part.kind)
  if (!at) return
  select(at)
  swap(part)
}
function select(e: PathElement | undefined): void {
  selected.value = e?.node_id
  problem.value = undefined
}
const selectNode = (id: string) => select(elements.value.find((e) => e.node_id === id))

function step(by: number): void {
  const at = elements.value.findIndex((e) => e.node_id === selected.value)
  select(elements.value[(at + by + elements.value.length) % elements.value.length])
}

async function measureSelected(quantity: string, typed: string, answer: Answer): Promise<void> {
  if (!element.value || !(await measure(element.value, quantity, typed, answer))) return
  panel.value?.kept()
  await solve()
}

function widenSelected(bore: number): void {
  if (element.value) widen(together(elements.value, element.value, false), bore)
}
function nudge(by: number): void {
  const e = element.value
  const bore = e && (thoughts.value.get(e.node_id)?.bore_mm ?? smallestBore(e))
  if (bore != null) widenSelected(bore + by)
}
function swap(part: Schemas['ShelfCard'] | undefined): void {
  if (!element.value) return
  const all = together(elements.value, element.value, true)
  const bore_mm = element.value.kind === 'plenum' ? null : (part?.bore.measured?.value ?? null)
  think(all, part && { part: { state_id: part.state_id, name: part.name, bore_mm } })
}

useOnScreen(() => ({
  of: element.value?.label ?? 'the air path',
  values: {
    bore_mm: (element.value && smallestBore(element.value)) ?? undefined,
    engine_speed_rpm: solution.value?.rpm,
  },
  engine: { ...engineFigures(job.value), engine_speed_rpm: solution.value?.rpm },
}))

useKeys([
  { key: 'ArrowRight', says: 'next component', run: () => step(1) },
  { key: 'ArrowLeft', says: 'previous component', run: () => step(-1) },
  { key: 'ArrowUp', says: 'what-if: bore +1 mm', run: () => nudge(1) },
  { key: 'ArrowDown', says: 'what-if: bore −1 mm', run: () => nudge(-1) },
  { key: 's', says: 'what-if: swap in a shelf part', run: () => panel.value?.focusSwap() },
  { key: ']', says: '+100 rpm', run: () => turn(100) },
  { key: '[', says: '−100 rpm', run: () => turn(-100) },
  { key: 'x', says: 'shares at engine speed / one port on the bench', run: turnBench },
  { key: 'z', says: 'clear what-if', run: putBack },
  { key: 'c', says: 'copy build with what-if parts', run: () => void keepAsBuild(swaps.value) },
  { key: 'n', says: 'name this build, or take it away', run: () => (naming.value = true) },
  { key: 'k', says: 'candidates', run: () => void router.push(candidates.value) },
  {
    key: 'v',
    says: 'next build',
    run: () =>
      (buildIndex.value =
        (Math.max(0, job.value!.builds.indexOf(build.value!)) + 1) % job.value!.builds.length),
  },
])

const sentences = computed(() => solution.value?.margin ?? [])
</script>

<template>
  <Screen v-if="job && build && tree">
    <PathHead :job="job" :build="build" :solution="solution" @choose="(i) => (buildIndex = i)" />
    <BuildName
      v-if="naming"
      :key="build.id"
      :build="build"
      @rename="nameBuild"
      @remove="removeBuild"
      @leave="naming = false"
    />
    <BuildDifference :first="job.builds[0]" :build="build" />
    <AirPath
      :tree="tree"
      size="large"
      :height="height"
      :selected="selected"
      :pinched="pinched"
      :thoughts="new Set(thoughts.keys())"
      :label="`Air path, ${build.name}`"
      @select="select"
      @bore="widenSelected"
    />
    <p v-if="failure || refusal" class="harm" role="alert">
      {{ failure || refusal?.detail }}
    </p>
    <div v-if="solution" class="loss" :class="{ alone: !solution.curve.length }">
      <LossLedger :solution="solution" :selected="selected" @select="selectNode" @turn="turnBench" />
      <DropPlate
        v-if="solution.curve.length"
        :points="solution.curve"
        :ends-at="solution.ends_at"
        :rpm="rpm ?? solution.rpm"
        :limit-kpa="solution.limit.value"
        :passed-rpm="solution.limit_passed_rpm ?? null"
        :thought="thoughts.size > 0"
        :height="218"
        @rpm="setRpm"
      />
    </div>
    <div class="doing">
      <Button v-if="thoughts.size" size="small" severity="secondary" @click="putBack"
        >Clear what-if <KeyCap k="Z"
      /></Button>
      <Button size="small" :severity="swaps.length ? undefined : 'secondary'" @click="keepAsBuild(swaps)">
        {{ swaps.length ? 'Save as build' : 'Copy build' }} <KeyCap k="C" />
      </Button>
      <Button as="router-link" :to="candidates" size="small" severity="secondary"
        >Candidates <KeyCap k="K"
      /></Button>
      <Select
        :model-value="null"
        :options="shapes ?? []"
        placeholder="Change layout…"
        size="small"
        aria-label="A build of another shape"
        @update:model-value="shape"
      />
      <RouterLink to="/lines" class="narrow">Shop limits</RouterLink>
      <span v-if="solution?.air && !element" class="narrow quiet"
        >{{ solution.air.text }} {{ solution.air.unit }} of outside air at {{ solution.rpm }} rpm;
        {{ solution.filling_words }}</span
      >
    </div>
    <div class="below">
      <ElementPanel
        v-if="element"
        ref="panel"
        :element="element"
        :row="row"
        :thought="thoughts.get(element.node_id)"
        :parts="parts"
        :problem="problem"
        @measure="measureSelected"
        @widen="widenSelected"
        @swap="swap"
        @put-in="(kind) => putIn(element!.node_id, kind)"
        @take-out="takeOut(element!.node_id)"
        @close="select(undefined)"
      />
      <template v-else>
        <p class="quiet hint">
          <KeyCap k="← →" /> steps through the path. Pick a component to see its data, enter a measurement, or
          try a what-if: a bigger bore or another part.
        </p>
        <PathStory :job="job" :solution="solution" />
      </template>
    </div>
    <template #margin>
      <Margin title="Air path notes" :sentences="sentences">
        <template #end>
          <h3>The job</h3>
          <p>
            <RouterLink :to="`/jobs/${jobId}/${job.step}`">{{ job.next }}</RouterLink>
          </p>
        </template>
      </Margin>
    </template>
  </Screen>
  <NotShown v-else :why="notThere" />
</template>

<style scoped>
.loss {
  display: grid;
  grid-template-columns: minmax(0, 1.55fr) minmax(0, 1fr);
  gap: 24px;
  padding-top: 6px;
  border-top: 1px solid var(--hair);
}
.loss.alone {
  grid-template-columns: minmax(0, 1fr);
}
.doing {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 12px;
  padding: 8px 0;
}
.below {
  padding-top: 10px;
  border-top: 1px solid var(--hair);
}
@media (max-width: 1000px) {
  .loss {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
