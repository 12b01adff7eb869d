<script setup lang="ts">
/** Port work: where metal comes off now, how much, and what stops it. */
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, told } from '@/api/client'
import { useSheet } from '@/api/sheet'
import { useJob } from '@/frame/job'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import { useSession } from '@/frame/session'
import CautionList from '@/ui/CautionList.vue'
import KeyRow from '@/ui/KeyRow.vue'
import Margin from '@/ui/Margin.vue'
import NotShown from '@/ui/NotShown.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import Screen from '@/ui/Screen.vue'
import CellEntry from './CellEntry.vue'
import NextCut from './NextCut.vue'
import PhotosHere from './PhotosHere.vue'
import PieceStrip from './PieceStrip.vue'
import PlanForm from './PlanForm.vue'
import StageAsk from './StageAsk.vue'
import StrikeReading from './StrikeReading.vue'
import UnrolledGrid from './UnrolledGrid.vue'
import { usePasses } from './usePasses'
import { useStages } from './useStages'
import WatchRows from './WatchRows.vue'

type Open = 'section' | 'wall' | 'plan' | 'stage' | 'strike' | undefined
const { id: jobId, reload, changed } = useJob()
const { units } = useSession()
const router = useRouter()
const { sheet, load, failure } = useSheet(
  () =>
    told(
      api.GET('/api/jobs/{job_id}/port', {
        params: { path: { job_id: jobId }, query: { units: units.value } },
      }),
    ),
  [units, changed],
)
const runner = ref(0)
const station = ref(0)
const open = ref<Open>()
const shown = ref(false)
const photos = ref<InstanceType<typeof PhotosHere>>()
const reloaded = async () => {
  await Promise.all([load(), reload()])
}
const passes = usePasses(jobId, sheet, reloaded)
const stages = useStages(() => sheet.value, reloaded)

const runners = computed(() => sheet.value?.runners ?? [])
const places = computed(() => sheet.value?.plan?.stations_mm ?? [])
const here = computed(() => runners.value[runner.value])
const cell = computed(() => here.value?.cells[station.value])
const next = computed(() => sheet.value?.next)
const atNext = computed(
  () => next.value?.runner === here.value?.number && next.value?.station === station.value,
)
const measured = computed(() => !!cell.value?.section_id || !!cell.value?.walls.length)
const strikable = computed(() => [
  ...(cell.value?.section_id ? [{ label: `section ${cell.value.typed}`, value: cell.value.section_id }] : []),
  ...(cell.value?.walls ?? []).map((w) => ({ label: `wall ${w.typed} at ${w.hour}`, value: w.id })),
])
const photosHere = computed(
  () =>
    sheet.value?.photos.filter(
      (p) =>
        p.cylinder === here.value?.number && Math.abs((p.place_mm ?? 0) - (cell.value?.place_mm ?? 0)) < 0.5,
    ).length ?? 0,
)
const pass = computed(() => here.value && passes.passOf(here.value.number))
/** The hand follows the answer as long as it is there; once elsewhere, it stays. */
watch(
  () => [next.value?.runner, next.value?.station] as const,
  ([at, of], was) => {
    if (open.value || at == null || of == null) return
    const [from, station_] = was ?? []
    if (from != null && (runner.value !== from - 1 || station.value !== station_)) return
    runner.value = at - 1
    station.value = of
  },
  { immediate: true },
)

function move(across: number, down: number): void {
  const wrap = (value: number, count: number) => (count ? (value + count) % count : 0)
  runner.value = wrap(runner.value + across, runners.value.length)
  station.value = wrap(station.value + down, places.value.length)
}
function look(r: number, s: number): void {
  runner.value = r
  station.value = s
}
function goNext(): void {
  const at = next.value
  if (at?.runner != null && at.station != null) look(at.runner - 1, at.station)
}

/** A section saved leads to the next station that lacks one; walls stay until one leaves. */
async function saved(what: 'section' | 'wall'): Promise<void> {
  await reloaded()
  if (what === 'wall') return
  if (open.value === 'section' && sheet.value?.in_work && cell.value?.walls.some((w) => w.reckoned)) {
    open.value = 'wall'
    return
  }
  if (station.value < places.value.length - 1) station.value += 1
  else if (runner.value < runners.value.length - 1) look(runner.value + 1, 0)
  else open.value = undefined
}
function left(): void {
  open.value = undefined
  if (!cell.value?.cut) goNext()
}
async function kept(): Promise<void> {
  open.value = undefined
  await reloaded()
}

async function begin(stage: number, piece: string | null): Promise<void> {
  await stages.begin(stage, piece)
  if (!stages.refusal.value) open.value = undefined
}

/** What Enter does: the one thing that is next for this station. */
const main = computed(() => {
  if (!sheet.value?.part_id) return undefined
  const head = next.value?.head
  const at = cell.value
  if (!at || at.now_mm2 == null || (head === 'measure' && (next.value?.runner == null || atNext.value)))
    return { says: 'Measure section', run: () => (open.value = 'section') }
  if (head === 'target') return { says: 'Set target', run: () => (open.value = 'plan') }
  if (!sheet.value.in_work && at.cut) return { says: 'Begin stage', run: () => (open.value = 'stage') }
  if (at.cut) return { says: 'Done, gauge', run: () => (open.value = 'section') }
  if (!at.walls.length && at.short !== 'on' && at.short)
    return { says: 'Gauge wall', run: () => (open.value = 'wall') }
  if (head === 'stop' && sheet.value.in_work) return { says: 'Finish stage', run: () => void stages.finish() }
  if (next.value?.runner != null && !atNext.value) return { says: 'Go to port next', run: goNext }
  return undefined
})
/** The watch runs within a stage: without one, it is asked for. */
function onRunner(act: (runner: number) => void): void {
  if (!sheet.value?.in_work) open.value = 'stage'
  else if (here.value) act(here.value.number)
}
/** Photos show themselves at the first press; the next takes one. */
function photo(): void {
  if (shown.value) photos.value?.choose()
  else shown.value = true
}
const stageKey = () => {
  if (sheet.value?.in_work) void stages.finish()
  else open.value = 'stage'
}

useKeys([
  { key: 'ArrowRight', says: 'next runner', run: () => move(1, 0) },
  { key: 'ArrowLeft', says: 'runner before', run: () => move(-1, 0) },
  { key: 'ArrowDown', says: 'station further in', run: () => move(0, 1) },
  { key: 'ArrowUp', says: 'station further out', run: () => move(0, -1) },
  { key: 'Enter', says: 'what is next here', run: () => main.value?.run() },
  { key: 'n', says: 'go to port next', run: goNext },
  { key: 's', says: 'measure the section', run: () => (open.value = 'section') },
  { key: 'w', says: 'gauge the wall', run: () => (open.value = 'wall') },
  { key: 't', says: 'target and limits', run: () => (open.value = 'plan') },
  { key: 'b', says: 'begin or finish the stage', run: stageKey },
  { key: 'u', says: 'take a stage back that was begun by mistake', run: () => void stages.takeBack() },
  { key: ' ', says: 'watch runs or stands', run: () => onRunner(passes.toggle) },
  { key: 'd', says: 'round done on this runner', run: () => onRunner(passes.done) },
  {
    key: 'i',
    says: 'inspected by finger',
    run: () => onRunner((n) => passes.look(n, 'finger')),
  },
  { key: 'v', says: 'a tool worn out on this runner', run: () => onRunner(passes.wear) },
  { key: 'x', says: 'strike a reading out', run: () => measured.value && (open.value = 'strike') },
  { key: 'f', says: 'photos of this station', run: photo },
  {
    key: 'l',
    says: 'outlines, laid on each other',
    run: () => void router.push(`/jobs/${jobId}/port/outlines`),
  },
  {
    key: 'a',
    says: 'throttles and adapters',
    run: () => void router.push(`/jobs/${jobId}/port/bores`),
  },
  { key: 'o', says: 'other steps', run: () => void router.push(`/jobs/${jobId}/port/steps`) },
])
const LOOKS = ['finger', 'lamp', 'calliper', 'wall']
</script>

<template>
  <Screen v-if="sheet">
    <template v-if="sheet.part_id && here && cell" #take>
      <NextCut :sheet="sheet" :runner="here" :cell="cell" :next="atNext" :compact="!!open" />
      <CellEntry
        v-if="(open === 'section' || open === 'wall') && sheet.state_id"
        :key="open"
        :job-id="jobId"
        :state-id="sheet.state_id"
        :runner="here.number"
        :cell="cell"
        :what="open"
        :hour="Math.round(cell.cut?.hour ?? 0) || 12"
        @saved="saved"
        @leave="left"
      />
      <StrikeReading
        v-else-if="open === 'strike'"
        :title="`Strike out, runner ${here.number} at ${cell.place_mm} mm`"
        :readings="strikable"
        @done="kept"
        @leave="left"
      />
      <StageAsk v-else-if="open === 'stage'" :pieces="sheet.pieces" @stage="begin" @leave="left" />
      <p v-else class="doing">
        <Button v-if="main" class="main" size="large" @click="main.run()"
          >{{ main.says }} <KeyCap k="Enter"
        /></Button>
        <Button v-if="next?.runner != null && !atNext" outlined @click="goNext"
          >Port next <KeyCap k="N"
        /></Button>
      </p>
      <p v-if="failure || stages.refusal.value" class="harm" role="alert">
        {{ failure || stages.refusal.value }}
      </p>
      <ProblemNote v-if="passes.problem.value" :problem="passes.problem.value" @choose="passes.choose" />
    </template>
    <PlanForm
      v-if="open === 'plan' && sheet.part_id && sheet.plan"
      :job-id="jobId"
      :part-id="sheet.part_id"
      :plan="sheet.plan"
      @saved="kept"
      @leave="left"
    />
    <template v-else-if="sheet.part_id">
      <header class="head">
        <h3>The manifold unrolled</h3>
        <span class="quiet narrow">mm² short of target · thinnest wall, mm · {{ sheet.plan?.law }}</span>
      </header>
      <PieceStrip v-if="sheet.pieces.length" :pieces="sheet.pieces" :place="cell?.place_mm ?? 0" />
      <UnrolledGrid :runners="runners" :places="places" :runner="runner" :station="station" @look="look" />
      <template v-if="sheet.passes && (sheet.in_work || sheet.passes.minutes)">
        <WatchRows
          :passes="sheet.passes"
          :runners="runners"
          :runner="runner"
          @start="(number, name) => onRunner(() => void passes.start(number, name))"
          @look="(n) => look(n, station)"
        />
        <p v-if="pass" class="looks narrow">
          <span class="quiet">Looked at, runner {{ here?.number }}:</span>
          <button
            v-for="l in LOOKS"
            :key="l"
            type="button"
            class="way"
            :aria-pressed="pass.inspected.includes(l)"
            @click="here && passes.look(here.number, l)"
          >
            {{ pass.inspected.includes(l) ? '✓ ' : '' }}{{ l }}
          </button>
        </p>
      </template>
      <PhotosHere
        v-if="shown && here && cell && sheet.state_id"
        ref="photos"
        :job-id="jobId"
        :state-id="sheet.state_id"
        :state="sheet.state"
        :runner="here.number"
        :place="cell.place_mm"
        :photos="sheet.photos"
        @added="load"
      />
      <KeyRow>
        <button type="button" @click="open = 'section'"><KeyCap k="S" /> section</button>
        <button type="button" @click="open = 'wall'"><KeyCap k="W" /> wall</button>
        <button type="button" @click="open = 'plan'"><KeyCap k="T" /> target</button>
        <button type="button" @click="stageKey">
          <KeyCap k="B" /> {{ sheet.in_work ? 'finish stage' : 'begin stage' }}
        </button>
        <template v-if="sheet.in_work">
          <button type="button" @click="onRunner(passes.toggle)">
            <KeyCap k="Space" /> {{ pass?.running_since ? 'stop watch' : 'start watch' }}
          </button>
          <button type="button" @click="onRunner(passes.done)"><KeyCap k="D" /> round done</button>
          <button type="button" @click="onRunner(passes.wear)"><KeyCap k="V" /> tool worn</button>
          <button v-if="!sheet.passes?.minutes" type="button" @click="stages.takeBack">
            <KeyCap k="U" /> take stage back
          </button>
        </template>
        <button v-if="measured" type="button" @click="open = 'strike'"><KeyCap k="X" /> strike out</button>
        <button type="button" @click="photo">
          <KeyCap k="F" /> photos{{ photosHere ? ` ${photosHere}` : '' }}
        </button>
        <router-link :to="`/jobs/${jobId}/port/outlines`"><KeyCap k="L" /> outlines</router-link>
        <router-link :to="`/jobs/${jobId}/port/bores`"><KeyCap k="A" /> throttle, adapter</router-link>
        <router-link :to="`/jobs/${jobId}/port/steps`"><KeyCap k="O" /> other steps</router-link>
      </KeyRow>
    </template>
    <p v-else class="quiet">No part with runners is on this job yet. Add it at check-in.</p>
    <template #margin>
      <Margin title="Where to go on" :sentences="sheet.margin">
        <template #end>
          <CautionList :cautions="sheet.cautions" />
        </template>
      </Margin>
    </template>
  </Screen>
  <NotShown v-else :why="failure" />
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 2px 12px;
}
.head .narrow {
  font-size: 14px;
}
.doing {
  display: flex;
  gap: 10px;
}
.main {
  flex: 1;
  min-height: 56px;
}
.looks {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
  padding-top: 8px;
}
.looks .way[aria-pressed='true'] {
  border-color: var(--dye);
  color: var(--dye);
}
</style>
