<script setup lang="ts">
/** Outlines: does anything stand in the stream where openings meet, and where is it opened. */
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, told, type Schemas } from '@/api/client'
import { useSheet } from '@/api/sheet'
import { useJob } from '@/frame/job'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import { useSession } from '@/frame/session'
import KeyRow from '@/ui/KeyRow.vue'
import Margin from '@/ui/Margin.vue'
import NotShown from '@/ui/NotShown.vue'
import Screen from '@/ui/Screen.vue'
import StrikeReading from '../StrikeReading.vue'
import EdgeStrip from './EdgeStrip.vue'
import { clockText, pathOf } from './outline'
import OutlinePlate from './OutlinePlate.vue'
import TracePanel from './TracePanel.vue'

type Meeting = Schemas['MeetingView']
const { id: jobId, reload, changed } = useJob()
const { units } = useSession()
const router = useRouter()
const { sheet, load, failure } = useSheet(
  () =>
    told(
      api.GET('/api/jobs/{job_id}/outlines', {
        params: { path: { job_id: jobId }, query: { units: units.value } },
      }),
    ),
  [units, changed],
)
const view = ref(0)
const at = ref(0)
const hour = ref(0)
const open = ref<'trace' | 'strike'>()
const ALONE = 'each alone'

/** Which openings meet, and at last every outline by itself. */
const views = computed(() => {
  const pairs = new Set(sheet.value?.meetings.map((m) => `${m.pair.behind_name} behind ${m.pair.front_name}`))
  return [...pairs, ...(sheet.value?.outlines.length ? [ALONE] : [])]
})
const shownView = computed(() => views.value[view.value % Math.max(1, views.value.length)] ?? '')
const met = computed(
  () =>
    sheet.value?.meetings.filter(
      (m) => `${m.pair.behind_name} behind ${m.pair.front_name}` === shownView.value,
    ) ?? [],
)
const alone = computed(() => (shownView.value === ALONE ? (sheet.value?.outlines ?? []) : []))
const row = computed(() =>
  met.value.length
    ? met.value.map((m) => ({
        key: `${m.pair.front}${m.pair.behind}`,
        label: m.pair.runner ? String(m.pair.runner) : '',
        front: byId(m.pair.front)?.points_mm ?? [],
        behind: m.behind_mm,
        says: m.lip ? `${m.lip.text} ${m.lip.unit} lip` : m.headline.split(',')[0],
        doubt: m.told || !!m.why,
        area: byId(m.pair.front)?.area_mm2 ?? 0,
      }))
    : alone.value.map((o) => ({
        key: o.id,
        label: '',
        front: o.points_mm,
        behind: [] as number[][],
        says: o.name,
        doubt: o.flags.length > 0,
        area: o.area_mm2,
      })),
)
const here = computed<Meeting | undefined>(() => met.value[at.value])
const front = computed(() => (here.value ? byId(here.value.pair.front) : alone.value[at.value]))
const behind = computed(() => here.value && byId(here.value.pair.behind))
const byId = (id: string) => sheet.value?.outlines.find((o) => o.id === id)
const offset = computed(() => {
  const clock = here.value?.clock_mm ?? []
  return clock[Math.round((hour.value / 12) * clock.length) % (clock.length || 1)]
})
const signed = (mm: number) => `${mm < 0 ? '−' : '+'}${Math.abs(mm).toFixed(1)} mm`
const query = computed(() => (behind.value ? `?on=${behind.value.id}` : ''))
const file = (name: string) =>
  front.value ? `/api/outlines/${front.value.id}/${name}${query.value}` : undefined
const strikable = computed(() =>
  [front.value, behind.value].flatMap((o) =>
    o ? [{ label: `${o.name}, ${o.area_mm2} mm²`, value: o.id }] : [],
  ),
)
/** The worst lip is looked at first; where another is chosen, its own. */
watch(
  () => met.value.map((m) => m.lip?.value ?? 0).join(),
  () => {
    const worst = Math.max(0, ...met.value.map((m) => m.lip?.value ?? 0))
    at.value = Math.max(
      0,
      met.value.findIndex((m) => (m.lip?.value ?? 0) === worst),
    )
  },
  { immediate: true },
)
watch([here, front], () => (hour.value = here.value?.hour ?? 0), { immediate: true })

function go(name: string): void {
  const to = file(name)
  if (to) window.open(to, name.endsWith('pdf') ? '_blank' : '_self')
}
function other(): void {
  view.value = (view.value + 1) % Math.max(1, views.value.length)
  at.value = 0
}
const choose = (n: number) => (at.value = (n + row.value.length) % Math.max(1, row.value.length))
const walk = (by: number) => (hour.value = (hour.value + by + 12) % 12)
async function kept(): Promise<void> {
  await Promise.all([load(), reload()])
}
async function struck(): Promise<void> {
  open.value = undefined
  await kept()
}
useKeys([
  { key: 'a', says: 'scan, photo or drawing', run: () => (open.value = 'trace') },
  { key: 'ArrowRight', says: 'on round the clock', run: () => walk(0.25) },
  { key: 'ArrowLeft', says: 'back round the clock', run: () => walk(-0.25) },
  { key: 'ArrowDown', says: 'next outline', run: () => choose(at.value + 1) },
  { key: 'ArrowUp', says: 'outline before', run: () => choose(at.value - 1) },
  { key: 'o', says: 'another overlay', run: other },
  { key: 'p', says: 'template 1:1', run: () => go('template.pdf') },
  { key: 'd', says: 'DXF', run: () => go('outline.dxf') },
  { key: 'v', says: 'SVG', run: () => go('outline.svg') },
  { key: 'x', says: 'strike an outline out', run: () => front.value && (open.value = 'strike') },
  { key: 'Escape', says: 'back to port work', run: () => void router.push(`/jobs/${jobId}/port`) },
])
</script>

<template>
  <TracePanel
    v-if="sheet?.state_id && open === 'trace'"
    :job-id="jobId"
    :sheet="sheet"
    @saved="kept"
    @leave="open = undefined"
  />
  <Screen v-else-if="sheet">
    <p v-if="!sheet.part_id" class="quiet">No part with runners is on this job yet. Add it at check-in.</p>
    <div v-else-if="!front" class="empty">
      <h2>No outline yet</h2>
      <p>
        Lay the gasket, a print of the port or the flange on a flatbed with a ruler beside it, or photograph
        it straight from above. Elvarn finds the edges; DXF and SVG are read as well.
      </p>
      <button type="button" class="way strong" @click="open = 'trace'">
        Add a scan, photo or drawing <KeyCap k="A" />
      </button>
    </div>
    <div v-else class="laid">
      <div class="drawn">
        <OutlinePlate
          :front="front.points_mm"
          :front-name="here ? here.pair.front_name : front.name"
          :behind="here?.behind_mm"
          :behind-name="here?.pair.behind_name"
          :hour="hour"
          :lip-hour="here?.hour"
          :lip-text="here?.lip ? `${here.lip.text} ${here.lip.unit}` : undefined"
        />
        <div class="row">
          <h3>
            {{ shownView }}
            <span class="quiet narrow">{{ met.length ? 'worst lip, mm · area, mm²' : 'area, mm²' }}</span>
          </h3>
          <div class="minis">
            <button
              v-for="(m, n) in row"
              :key="m.key"
              type="button"
              class="mini plain-button"
              :aria-pressed="n === at"
              @click="choose(n)"
            >
              <svg viewBox="-40 -40 80 80" aria-hidden="true">
                <g
                  :transform="`scale(${34 / Math.max(5, ...m.front.map(([x = 0, y = 0]) => Math.hypot(x, y)))})`"
                >
                  <path class="front" :d="pathOf(m.front, true)" />
                  <path v-if="m.behind.length" class="behind" :d="pathOf(m.behind, true)" />
                </g>
                <text y="5">{{ m.label }}</text>
              </svg>
              <span class="narrow" :class="{ doubt: m.doubt }">{{ m.says }}</span>
              <span class="mono">{{ m.area.toFixed(0) }}</span>
            </button>
          </div>
        </div>
      </div>
      <div class="told">
        <h3>{{ here ? here.pair.title : `${front.name}, alone` }}</h3>
        <p v-if="here?.lip" class="figure" :class="{ estimate: here.centred }" aria-live="polite">
          <span class="lip mono">{{ here.lip.text }}</span>
          <span
            >{{ here.lip.unit }} <b>{{ here.headline }}</b><br /><span class="ink">{{
              here.place
            }}</span></span
          >
        </p>
        <p v-else-if="here" class="figure plain" :class="{ doubt: here.why }" aria-live="polite">
          <b>{{ here.headline }}</b>
          <span v-if="here.why">{{ here.why }}</span>
        </p>
        <p v-else class="figure plain">
          <b class="mono">{{ front.area_mm2.toFixed(0) }} mm²</b>
        </p>
        <dl>
          <dt class="name">{{ here ? here.pair.front_name : 'It holds' }}</dt>
          <dd>
            <b class="mono cut">{{ front.area_mm2.toFixed(0) }}</b> mm² {{ front.within }} · round it
            {{ front.perimeter_mm.toFixed(0) }} mm · hydraulic ⌀&nbsp;{{ front.hydraulic.text }}&nbsp;{{
              front.hydraulic.unit
            }}
          </dd>
          <template v-if="here && behind">
            <dt class="name">{{ here.pair.behind_name }}</dt>
            <dd>
              <b class="mono dye">{{ behind.area_mm2.toFixed(0) }}</b> mm² {{ behind.within }} ·
              {{ here.larger }}
            </dd>
            <template v-if="!here.why">
              <dt>In the stream</dt>
              <dd>
                <b class="mono">{{ here.lip_mm2.toFixed(1) }}</b> mm² ·
                {{ ((100 * here.lip_mm2) / front.area_mm2).toFixed(1) }} % of what is in front
              </dd>
            </template>
            <template v-if="here.target">
              <dt>Target</dt>
              <dd>
                <b class="mono">{{ here.target }}</b> at this station
              </dd>
            </template>
          </template>
          <template v-if="front.flags.length">
            <dt>Flagged</dt>
            <dd class="doubt">{{ front.flags.join(', ') }}</dd>
          </template>
        </dl>
        <template v-if="here?.clock_mm.length">
          <h3>
            Edge of the {{ here.pair.behind_name }}, mm round the clock
            <span v-if="offset != null" class="mono">{{ clockText(hour) }}: {{ signed(offset) }}</span>
          </h3>
          <EdgeStrip :clock="here.clock_mm" :hour="hour" :told="here.told" :behind="here.pair.behind_name" />
          <p class="quiet narrow">above the line it steps back, below it stands in the stream</p>
        </template>
        <StrikeReading
          v-if="open === 'strike'"
          title="Strike an outline out"
          :readings="strikable"
          @done="struck"
          @leave="open = undefined"
        />
        <div v-else class="out">
          <a class="way strong" :href="file('template.pdf')" target="_blank"
            >Print template 1:1 <KeyCap k="P"
          /></a>
          <a class="way" :href="file('outline.dxf')">DXF <KeyCap k="D" /></a>
          <a class="way" :href="file('outline.svg')">SVG <KeyCap k="V" /></a>
        </div>
      </div>
    </div>
    <KeyRow v-if="front">
      <button type="button" @click="open = 'trace'"><KeyCap k="A" /> scan, photo, drawing</button>
      <span><KeyCap k="←" /><KeyCap k="→" /> round the clock</span>
      <span><KeyCap k="↑" /><KeyCap k="↓" /> which runner</span>
      <button v-if="views.length > 1" type="button" @click="other"><KeyCap k="O" /> other overlay</button>
      <button type="button" @click="open = 'strike'"><KeyCap k="X" /> strike out</button>
      <router-link :to="`/jobs/${jobId}/port`"><KeyCap k="Esc" /> port work</router-link>
    </KeyRow>
    <template #margin><Margin title="What the outlines say" :sentences="sheet.margin" /></template>
  </Screen>
  <NotShown v-else :why="failure" />
</template>

<style scoped src="./outline.css"></style>
