<script setup lang="ts">
/** Throttles and adapters: what of the bore stands open, what holds the air back, and where no metal may come off. */
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
import { useLit } from '@/ui/lit'
import Margin from '@/ui/Margin.vue'
import NotShown from '@/ui/NotShown.vue'
import Screen from '@/ui/Screen.vue'
import StageAsk from '../StageAsk.vue'
import StrikeReading from '../StrikeReading.vue'
import { useStages } from '../useStages'
import AddPart from './AddPart.vue'
import BoreChart from './BoreChart.vue'
import BoreSection from './BoreSection.vue'
import { around } from './bores'
import { gaugingOf, sizing, type Gauging } from './gauging'
import SizeEntry from './SizeEntry.vue'

const { id: jobId, reload, changed } = useJob()
const { units } = useSession()
const router = useRouter()
const part = ref<string>()
const { sheet, load, failure } = useSheet(
  () =>
    told(
      api.GET('/api/jobs/{job_id}/barrels', {
        params: {
          path: { job_id: jobId },
          query: { units: units.value, ...(part.value ? { part: part.value } : {}) },
        },
      }),
    ),
  [units, changed, part],
)
const lit = useLit()
const open = ref<Gauging>()
const asking = ref<'strike' | 'stage' | 'part'>()
const number = ref(0)
const at = ref(0)

const reloaded = async () => {
  await Promise.all([load(), reload()])
}
const chosen = computed(() => sheet.value?.parts.find((p) => p.part_id === sheet.value?.part_id))
const stages = useStages(() => chosen.value, reloaded)
const barrel = computed(() => sheet.value?.barrels[number.value])
const depths = computed(() => barrel.value?.depths ?? [])
const details = computed(() => sheet.value?.details ?? [])
const count = computed(() => depths.value.length + details.value.length)
const detail = computed(() => details.value[at.value - depths.value.length])
const depth = computed(() => depths.value[at.value])
const best = computed(() => (sheet.value?.go ? sheet.value.changes[0] : undefined))
const strikable = computed(() =>
  depth.value
    ? depth.value.gauges.map((g) => ({ label: `${g.typed} at ${g.hour} o'clock`, value: g.id }))
    : detail.value?.id
      ? [{ label: `${detail.value.label}: ${detail.value.typed}`, value: detail.value.id }]
      : [],
)
/** The narrowest barrel is looked at first. */
watch(
  () => `${sheet.value?.part_id} ${sheet.value?.leading}`,
  () => {
    number.value = (sheet.value?.leading ?? 1) - 1
    at.value = 0
  },
  { immediate: true },
)

function ask(what: 'strike' | 'stage' | 'part'): void {
  open.value = undefined
  asking.value = what
}
function gauge(): void {
  asking.value = undefined
  if (depth.value) open.value = gaugingOf(number.value + 1, depth.value)
  else if (detail.value) open.value = sizing(detail.value)
  else add()
}
function add(): void {
  asking.value = undefined
  open.value = gaugingOf(number.value + 1)
}
function closing(): void {
  const found = details.value.findIndex((d) => d.quantity === 'closed_angle')
  if (found < 0) return
  at.value = depths.value.length + found
  gauge()
}
/** A new depth asks for the next one; a size leads to the next that lacks its figure. */
async function saved(): Promise<void> {
  const was = open.value
  open.value = undefined
  await reloaded()
  if (was?.quantity === 'across') {
    if (was.place) at.value = around(at.value, 1, count.value)
    return
  }
  const from = at.value
  const next = details.value.findIndex((d, n) => depths.value.length + n > from && !d.text)
  if (next >= 0) {
    at.value = depths.value.length + next
    gauge()
  }
}
async function kept(): Promise<void> {
  asking.value = undefined
  await reloaded()
}
async function added(identifier: string): Promise<void> {
  part.value = identifier
  await kept()
}
function other(): void {
  const parts = sheet.value?.parts ?? []
  const here = parts.findIndex((p) => p.part_id === sheet.value?.part_id)
  part.value = parts[around(here, 1, parts.length)]?.part_id
}
async function begin(stage: number): Promise<void> {
  await stages.begin(stage)
  if (!stages.refusal.value) asking.value = undefined
}
function stage(): void {
  if (chosen.value?.in_work) void stages.finish()
  else ask('stage')
}
const walk = (by: number) => (at.value = around(at.value, by, count.value))
const turn = (by: number) => {
  number.value = around(number.value, by, sheet.value?.barrels.length ?? 0)
  at.value = 0
}
useKeys([
  { key: 'ArrowDown', says: 'next size', run: () => walk(1) },
  { key: 'ArrowUp', says: 'size before', run: () => walk(-1) },
  { key: 'ArrowRight', says: 'next barrel', run: () => turn(1) },
  { key: 'ArrowLeft', says: 'barrel before', run: () => turn(-1) },
  { key: 'Enter', says: 'gauge it', run: gauge },
  { key: 'a', says: 'another depth of the bore', run: add },
  { key: 'c', says: 'closed angle, checked anew', run: closing },
  { key: 'o', says: 'other throttle or adapter', run: other },
  { key: 't', says: 'another throttle or adapter came along', run: () => ask('part') },
  { key: 'b', says: 'begin or finish the stage', run: stage },
  { key: 'x', says: 'strike a reading out', run: () => strikable.value.length && ask('strike') },
  { key: 'Escape', says: 'back to port work', run: () => void router.push(`/jobs/${jobId}/port`) },
])
</script>

<template>
  <Screen v-if="sheet">
    <template v-if="sheet.part_id" #take>
      <div class="over">
        <span class="narrow quiet">{{ chosen?.kind }}</span>
        <span class="narrow stage" :class="{ doubt: !chosen?.in_work }">{{
          chosen?.in_work ? chosen.state : `${chosen?.state}, no stage in work`
        }}</span>
      </div>
      <h2>{{ chosen?.name }}</h2>
      <p v-if="best" class="figure" aria-live="polite">
        <b>{{ sheet.headline }}</b>
        <span
          ><span class="mono">{{ best.was }}</span> → <span class="mono big">{{ best.becomes }}</span></span
        >
        <span
          ><i class="mono">{{ best.gain || best.percent }} {{ best.half }}</i>
          <span class="quiet"> estimate · {{ best.ends }}</span></span
        >
      </p>
      <p v-else class="figure plain">
        <b>{{ sheet.headline }}</b>
      </p>
      <SizeEntry
        v-if="open && chosen"
        :key="`${open.quantity} ${open.place} ${number}`"
        :job-id="jobId"
        :state-id="chosen.state_id"
        :kind="chosen.kind"
        :gauging="open"
        @saved="saved"
        @leave="open = undefined"
      />
      <StrikeReading
        v-else-if="asking === 'strike'"
        title="Strike a reading out"
        :readings="strikable"
        @done="kept"
        @leave="asking = undefined"
      />
      <StageAsk v-else-if="asking === 'stage'" @stage="begin" @leave="asking = undefined" />
      <AddPart v-else-if="asking === 'part'" @added="added" @leave="asking = undefined" />
      <p v-else class="doing">
        <Button class="main" size="large" @click="gauge">Gauge <KeyCap k="Enter" /></Button>
        <Button outlined @click="add">Another depth <KeyCap k="A" /></Button>
      </p>
      <p v-if="failure || stages.refusal.value" class="harm" role="alert">
        {{ failure || stages.refusal.value }}
      </p>
      <table class="sizes">
        <thead>
          <tr>
            <th>size</th>
            <th>measured</th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="(d, n) in details"
            :key="d.quantity"
            :aria-selected="depths.length + n === at"
            @click="at = depths.length + n"
            @dblclick="gauge"
          >
            <td>{{ d.label.split(',')[0] }}</td>
            <td>
              <b v-if="d.text" class="mono">{{ d.text }}</b><span v-else class="quiet">–</span>
              {{ d.text ? d.unit : '' }}
              <span v-if="d.old" class="quiet narrow"> before this stage</span>
              <span v-if="d.marks.length" class="doubt narrow"> flagged</span>
            </td>
          </tr>
        </tbody>
      </table>
    </template>
    <template v-if="sheet.part_id && barrel">
      <header class="head">
        <h3>{{ sheet.barrels.length > 1 ? `Barrel ${barrel.number}, to scale` : 'To scale' }}</h3>
        <span class="quiet narrow">depth from the entry face, mm</span>
      </header>
      <BoreSection :sheet="sheet" :barrel="barrel" :at="at" />
      <div class="two">
        <table class="sizes">
          <thead>
            <tr>
              <th>at, mm</th>
              <th>mean bore, mm</th>
              <th>out of round</th>
              <th>open to</th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="(d, n) in depths"
              :key="d.place_mm"
              :aria-selected="n === at"
              @click="at = n"
              @dblclick="gauge"
            >
              <td class="mono">{{ d.place_mm }}</td>
              <td>
                <b class="mono">{{ d.bore.text }}</b>
                <span v-if="d.before.text !== d.bore.text" class="quiet mono"> was {{ d.before.text }}</span>
                <span v-if="d.gauges.some((g) => g.marks.length)" class="doubt"> flagged</span>
              </td>
              <td class="mono">{{ d.out_of_round?.text ?? '–' }}</td>
              <td :class="d.seals ? 'doubt' : 'cut'">
                {{ d.seals ? 'blade seals' : '' }}<b class="mono">{{ d.wanted?.text ?? '' }}</b>
              </td>
            </tr>
            <tr v-if="!depths.length">
              <td colspan="4" class="quiet">not gauged: press A</td>
            </tr>
          </tbody>
        </table>
        <div>
          <h3>Bore along its depth, mm</h3>
          <BoreChart v-if="depths.length > 1" :sheet="sheet" :barrel="barrel" :at="at" />
          <p class="quiet narrow">ring mean · dots each direction · bar open to</p>
        </div>
      </div>
      <template v-if="sheet.changes.length">
        <h3>
          What each is worth alone
          <span class="quiet narrow"
            >{{ sheet.measured ? 'of' : 'of a reckoned' }} {{ sheet.flow?.text }} {{ sheet.flow?.unit }}</span
          >
        </h3>
        <div
          v-for="c in sheet.changes"
          :key="c.change"
          class="change"
          :class="{ lit: lit === `change ${c.change}` }"
        >
          <b>{{ c.title }}</b>
          <span class="mono">{{ c.was }} → {{ c.becomes }}</span>
          <span class="bar"><span :style="{ width: `${Math.max(1, 100 * c.share)}%` }" /></span>
          <i class="mono">{{ c.gain || c.percent }} {{ c.half }}</i>
          <span class="quiet narrow">{{ c.ends }}</span>
        </div>
      </template>
      <KeyRow>
        <span><KeyCap k="↑" /><KeyCap k="↓" /> which size</span>
        <span v-if="sheet.barrels.length > 1"><KeyCap k="←" /><KeyCap k="→" /> which barrel</span>
        <button type="button" @click="add"><KeyCap k="A" /> another depth</button>
        <button v-if="sheet.has_plate" type="button" @click="closing">
          <KeyCap k="C" /> closure checked
        </button>
        <button type="button" @click="stage">
          <KeyCap k="B" /> {{ chosen?.in_work ? 'finish stage' : 'begin stage' }}
        </button>
        <button v-if="strikable.length" type="button" @click="ask('strike')">
          <KeyCap k="X" /> strike out
        </button>
        <button type="button" @click="ask('part')"><KeyCap k="T" /> add a part</button>
        <button v-if="sheet.parts.length > 1" type="button" @click="other">
          <KeyCap k="O" /> other part
        </button>
        <router-link :to="`/jobs/${jobId}/port`"><KeyCap k="Esc" /> port work</router-link>
      </KeyRow>
    </template>
    <div v-else class="none">
      <h2>No throttle or adapter here yet</h2>
      <p>
        Gauge its bore at three depths, both ways across, and its shaft, blade and entry: Elvarn tells what
        holds the air back, and how far it may be opened.
      </p>
      <AddPart v-if="asking === 'part'" @added="added" @leave="asking = undefined" />
      <button v-else type="button" class="way strong" @click="ask('part')">
        Add the one that came along <KeyCap k="T" />
      </button>
      <KeyRow>
        <router-link :to="`/jobs/${jobId}/port`"><KeyCap k="Esc" /> port work</router-link>
      </KeyRow>
    </div>
    <template #margin>
      <Margin title="What holds the air back" :sentences="sheet.margin">
        <template #end>
          <CautionList :cautions="sheet.cautions" />
        </template>
      </Margin>
    </template>
  </Screen>
  <NotShown v-else :why="failure" />
</template>

<style scoped src="./bores.css"></style>
