<script setup lang="ts">
/**
 * The job's home: its air path large and to scale, under it how the pressure loss divides over the elements at an
 * engine speed, and what if a bore or a part were another.
 */
import Button from 'primevue/button'
import Select from 'primevue/select'
import { computed, nextTick, onMounted, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import AirPath from '@/airpath/AirPath.vue'
import type { PathElement } from '@/airpath/layout'
import { get, newId, now, patch, put, Refused, type Problem, type Schemas } from '@/api/client'
import DropPlate from '@/charts/DropPlate.vue'
import KeyCap from '@/shared/KeyCap.vue'
import { useKeys } from '@/shared/keys'
import Margin from '@/shared/Margin.vue'
import { useSession } from '@/shared/session'
import { day } from '@/shared/words'
import { useJob } from '../job'
import BuildDifference from './BuildDifference.vue'
import ElementPanel from './ElementPanel.vue'
import LossLedger from './LossLedger.vue'
import { listed, redrawn, smallestBore, together, useThought } from './thought'

const { id: jobId, job, reload } = useJob()
const { units, personId, shop } = useSession()
const router = useRouter()
const route = useRoute()
const buildIndex = ref(-1)
const selected = ref<string>()
const problem = ref<Problem>()
const panel = ref<InstanceType<typeof ElementPanel>>()
const shelf = shallowRef<Schemas['ShelfCard'][]>([])
const shapes = shallowRef<string[]>([])

const build = computed(() => job.value?.builds.at(buildIndex.value))
const elements = computed(() => (build.value ? listed(build.value.path) : []))
const element = computed(() => elements.value.find((e) => e.node_id === selected.value))
const { rpm, thoughts, solution, failure, swaps, solve, think, widen, turn, turnBench, setRpm, putBack } =
  useThought(build, units)
const tree = computed(() => build.value && redrawn(build.value.path, thoughts.value))
const row = computed(() => solution.value?.rows.find((r) => r.node_ids.includes(selected.value ?? '')))
const shelfKind = (e: PathElement) => (e.kind === 'plenum' || e.kind === 'runner' ? 'manifold' : e.kind)
const candidates = computed(() => {
  const kind = element.value ? `&kind=${shelfKind(element.value)}` : ''
  return `/jobs/${jobId}/candidates?build=${build.value?.id ?? ''}${kind}`
})
const parts = computed(() => shelf.value.filter((p) => element.value && p.kind === shelfKind(element.value)))
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

onMounted(async () => {
  void solve()
  shapes.value = await get(`/api/jobs/${jobId}/shapes`)
  shelf.value = (await get<Schemas['Shelf']>(`/api/shelf?units=${units.value}`)).parts
})
/** The address may name a build, and a candidate to be tried in it: once job and shelf are there. */
const opening = watch(
  [job, shelf],
  async () => {
    const at = job.value?.builds.findIndex((b) => b.id === route.query['build']) ?? -1
    if (at >= 0) buildIndex.value = at
    if (!job.value || !shelf.value.length) return
    opening()
    await nextTick()
    tryOut(route.query['try'])
  },
  { flush: 'post' },
)

/** A candidate to be tried, named by the address: its element is chosen, and it stands there in thought. */
function tryOut(state: unknown): void {
  const part = shelf.value.find((p) => p.state_id === state)
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

/** A measurement needs a part: an element without one gets it first. */
async function stateOf(e: PathElement): Promise<string> {
  if (e.part_state_id) return e.part_state_id
  const state_id = newId()
  await put(`/api/parts/${newId()}`, {
    person_id: personId.value,
    job_id: jobId,
    kind: shelfKind(e),
    name: e.label,
    state_id,
  })
  const current = build.value
  if (current) {
    await patch(`/api/builds/${current.id}`, {
      version: current.version,
      node_id: e.node_id,
      part_state_id: state_id,
    })
    await reload() // a figure that is refused now finds its part there
  }
  return state_id
}

async function measure(quantity: string, typed: string, accepted: string[]): Promise<void> {
  const e = element.value
  if (!e) return
  const shared = {
    person_id: personId.value,
    job_id: jobId,
    element_kind: e.kind,
    taken_at: now(),
    cylinder: e.cylinder,
  }
  try {
    const part_state_id = await stateOf(e)
    if (quantity === 'flow') {
      const [figure, depression] = typed.split(/\s+at\s+/)
      const bench_id = shop.value?.benches[0]?.id
      const read = { typed: figure, depression: depression ?? '28', bench_id }
      await put(`/api/part-flows/${newId()}`, { ...shared, part_state_id, ...read })
    } else {
      await put(`/api/dimensions/${newId()}`, { ...shared, part_state_id, quantity, typed, accepted })
    }
    problem.value = undefined
    panel.value?.kept()
    await reload()
    await solve()
  } catch (caught) {
    problem.value = asProblem(caught, 'The figure stays here; press Enter again.')
  }
}

function asProblem(caught: unknown, then: string): Problem {
  if (caught instanceof Refused) return caught.problem
  const detail = `Elvarn does not answer. ${then}`
  return { type: '', title: '', status: 0, detail, code: 'unreachable', offers: [] }
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

/** A new build: asked for at this address, with these words. */
async function make(address: string, body: Record<string, unknown>): Promise<void> {
  try {
    await put(`/api/${address}/${newId()}`, { person_id: personId.value, ...body })
    await reload()
    selected.value = undefined
    buildIndex.value = -1
    problem.value = undefined
  } catch (caught) {
    problem.value = asProblem(caught, 'Nothing is lost; try again.')
  }
}

/** The swaps that are thought of, as a build of their own; without any, a plain copy. */
const keepAsBuild = (): Promise<void> =>
  make('build-copies', {
    copy_of: build.value?.id,
    swaps: swaps.value.map(([node_id, t]) => ({ node_id, part_state_id: t.part?.state_id })),
  })
const putIn = (kind: string) =>
  make('build-copies', { copy_of: build.value?.id, put_in: { node_id: selected.value, kind } })
const takeOut = () => make('build-copies', { copy_of: build.value?.id, taken_out: selected.value })
const shape = (name: string) => make('shaped-builds', { job_id: jobId, shape: name })

useKeys([
  { key: 'ArrowRight', says: 'next element', run: () => step(1) },
  { key: 'ArrowLeft', says: 'element before', run: () => step(-1) },
  { key: 'ArrowUp', says: 'wider by 1 mm, in thought', run: () => nudge(1) },
  { key: 'ArrowDown', says: 'narrower by 1 mm, in thought', run: () => nudge(-1) },
  { key: 's', says: 'swap the element for one of the shelf', run: () => panel.value?.focusSwap() },
  { key: ']', says: 'faster by 100 rpm', run: () => turn(100) },
  { key: '[', says: 'slower by 100 rpm', run: () => turn(-100) },
  { key: 'x', says: 'shares at a speed, or of one port on the bench', run: turnBench },
  { key: 'z', says: 'put back what is thought of', run: putBack },
  { key: 'c', says: 'copy the build, with the swaps in thought', run: () => void keepAsBuild() },
  { key: 'k', says: 'candidates', run: () => void router.push(candidates.value) },
  {
    key: 'v',
    says: 'next build',
    run: () =>
      (buildIndex.value =
        (Math.max(0, job.value!.builds.indexOf(build.value!)) + 1) % job.value!.builds.length),
  },
])

const gained = computed(() => {
  const [low, high] = [solution.value?.gained_low_percent, solution.value?.gained_high_percent]
  if (low == null || high == null) return ''
  const sign = (v: number) => `${v < 0 ? '−' : '+'}${Math.abs(v).toFixed(1)}`
  return sign(low) === sign(high) ? `${sign(high)} % air` : `${sign(low)} to ${sign(high)} % air`
})
const sentences = computed(() => solution.value?.margin ?? [])
</script>

<template>
  <div v-if="job && build && tree" class="path">
    <section class="home">
      <div class="head">
        <div>
          <h1>{{ job.title }}</h1>
          <p class="narrow quiet">
            {{
              [job.kind_title, job.customer && `for ${job.customer}`, job.flow_basis]
                .filter(Boolean)
                .join(' · ')
            }}
          </p>
        </div>
        <div v-if="solution?.to_plenum" class="answer">
          <span class="big mono"
            ><small v-if="solution.at_least" class="narrow">at least </small>{{ solution.to_plenum.text }}
            <small>kPa</small></span
          >
          <span class="narrow quiet"
            >lost up to the plenum at {{ solution.rpm }} rpm: {{ solution.air_percent?.toFixed(1) }} % of the
            air</span
          >
          <span v-if="gained" class="gained mono">{{ gained }}</span>
        </div>
        <div class="builds" role="group" aria-label="Builds">
          <button
            v-for="(b, i) in job.builds"
            :key="b.id"
            type="button"
            :class="{ on: b.id === build.id }"
            @click="buildIndex = i"
          >
            {{ b.name }}
          </button>
          <KeyCap v-if="job.builds.length > 1" k="V" />
        </div>
      </div>
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
      <p v-if="failure || (problem && !element)" class="harm" role="alert">
        {{ failure || problem?.detail }}
      </p>
      <div v-if="solution" class="loss" :class="{ alone: !solution.curve.length }">
        <LossLedger :solution="solution" :selected="selected" @select="selectNode" @turn="turnBench" />
        <DropPlate
          v-if="solution.curve.length"
          :points="solution.curve"
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
          >Put back <KeyCap k="Z"
        /></Button>
        <Button size="small" :severity="swaps.length ? undefined : 'secondary'" @click="keepAsBuild">
          {{ swaps.length ? 'Keep as a build' : 'Copy this build' }} <KeyCap k="C" />
        </Button>
        <Button as="router-link" :to="candidates" size="small" severity="secondary"
          >Candidates <KeyCap k="K"
        /></Button>
        <Select
          :model-value="null"
          :options="shapes"
          placeholder="Another shape…"
          size="small"
          aria-label="A build of another shape"
          @update:model-value="shape"
        />
        <RouterLink to="/lines" class="narrow">The shop's lines</RouterLink>
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
          @measure="measure"
          @widen="widenSelected"
          @swap="swap"
          @put-in="putIn"
          @take-out="takeOut"
          @close="select(undefined)"
        />
        <template v-else>
          <p class="quiet hint">
            <KeyCap k="← →" /> goes along the path: an element shows what is known of it, takes what you
            measure, and can be made wider or swapped in thought.
          </p>
          <div class="more">
            <div v-if="solution?.figures.length">
              <h3>At {{ solution.rpm }} rpm</h3>
              <dl class="figures">
                <div v-for="f in solution.figures" :key="f.name" :class="{ doubt: f.doubt }">
                  <dt>{{ f.name }}</dt>
                  <dd>
                    <span class="mono">{{ f.text }}</span> <span class="quiet narrow">{{ f.note }}</span>
                  </dd>
                </div>
              </dl>
            </div>
            <div>
              <h3>So far</h3>
              <ol>
                <li v-for="(e, i) in job.story" :key="i">
                  <span class="quiet narrow">{{ day(e.day) }}</span> {{ e.words }}
                </li>
              </ol>
            </div>
          </div>
        </template>
      </div>
    </section>
    <Margin title="What the path says" :sentences="sentences">
      <template #end>
        <h3>The job</h3>
        <p>
          <RouterLink :to="`/jobs/${jobId}/${job.step}`">{{ job.next }}</RouterLink>
        </p>
      </template>
    </Margin>
  </div>
</template>

<style scoped>
.path {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 280px;
  min-height: 0;
}
.home {
  padding: 12px 24px 20px;
  overflow-y: auto;
}
.head {
  display: flex;
  justify-content: space-between;
  align-items: start;
  gap: 8px 20px;
  flex-wrap: wrap;
}
.answer {
  display: flex;
  align-items: baseline;
  gap: 8px;
}
.big {
  font-size: 24px;
}
.big small {
  font-size: 15px;
}
.gained {
  color: var(--cut);
  font-weight: 600;
}
.builds {
  display: flex;
  gap: 4px 14px;
  align-items: center;
  flex-wrap: wrap;
}
.builds button {
  padding: 3px 2px;
  border: 0;
  border-bottom: 3px solid transparent;
  background: none;
  cursor: pointer;
  font-weight: 600;
}
.builds .on {
  border-color: var(--dye);
  color: var(--dye);
}
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
.more {
  display: grid;
  grid-template-columns: minmax(0, 1.6fr) minmax(0, 1fr);
  gap: 28px;
  padding-top: 8px;
}
.figures {
  margin: 0;
}
.figures > div {
  display: grid;
  grid-template-columns: 210px 1fr;
  padding: 2px 0;
}
.figures dt {
  font: 500 15px/1.5 var(--narrow);
  color: var(--quiet);
}
.figures .doubt dt,
.figures .doubt dd {
  color: var(--doubt);
}
.figures dd {
  margin: 0;
}
.more ol {
  margin: 0;
  padding: 0;
  list-style: none;
}
.more li {
  display: grid;
  grid-template-columns: 62px 1fr;
  padding: 2px 0;
}
@media (max-width: 1000px) {
  .path,
  .loss,
  .more {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
