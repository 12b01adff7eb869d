<script setup lang="ts">
/** Did it pay? Pulls against stock on one plate, the difference under it, the verdict in the margin. */
import InputText from 'primevue/inputtext'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { vFocus } from '@/ui/focus'
import { api, newId, now, problemIn, told, type Schemas } from '@/api/client'
import { useSheet } from '@/api/sheet'
import Plate from '@/charts/Plate.vue'
import { whole } from '@/ui/figures'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import Margin from '@/ui/Margin.vue'
import { useSession } from '@/frame/session'
import { day } from '@/ui/words'
import { useJob } from '@/frame/job'
import MappingPanel from './MappingPanel.vue'
import { guessBuild, usePending } from './mapping'
import NotShown from '@/ui/NotShown.vue'

const { id: jobId, job, reload, changed } = useJob()
const { units, shop, personId, loadShop } = useSession()
const { pending, look, keep, spread, drop } = usePending(jobId)
const first = computed(() => pending.value[0])
const chooser = ref<HTMLInputElement>()
const over = ref(false)
const other = ref<string>()
const strip = ref<'power' | 'torque'>('power')
const bandOpen = ref(false)
const low = ref('')
const high = ref('')
const band = ref<[number, number]>()
const { sheet, load, failure } = useSheet(
  () =>
    told(
      api.GET('/api/jobs/{job_id}/dyno', {
        params: { path: { job_id: jobId }, query: { units: units.value, other: other.value } },
      }),
    ),
  [units, other, changed],
)
/** Another band than the job's: only the comparison changes. */
const { sheet: bandAnswer } = useSheet(askBand, [band, sheet])
const error = ref('')
const striking = ref<string>()
const reason = ref('')
const height = computed(() => Math.max(380, Math.min(620, window.innerHeight - 330)))

const compared = computed(() => sheet.value?.comparison ?? undefined)
/** The band chosen by hand, or the job's. */
const shown = computed(() => bandAnswer.value?.answer ?? compared.value)
const figures = computed(() => shown.value?.band ?? undefined)
const sentences = computed(() => [
  ...(shown.value?.said ?? []),
  ...(sheet.value?.margin.filter((s) => s.tone !== 'next') ?? []),
  ...(compared.value?.trust ?? []),
  ...(sheet.value?.margin.filter((s) => s.tone === 'next') ?? []),
])

async function askBand(): Promise<{ answer?: Schemas['BandAnswer'] }> {
  const [stock, chosen] = [sheet.value?.stock, sheet.value?.other]
  if (!band.value || !sheet.value?.comparison || !stock || !chosen) return {}
  const [low_rpm, high_rpm] = band.value
  const query = { stock: stock.build_id, other: chosen.build_id, units: units.value, low_rpm, high_rpm }
  return { answer: await told(api.GET('/api/comparison/band', { params: { query } })) }
}

/** The dyno used last; a shop that has named none yet chooses between one at the engine and one at the wheels. */
async function ensureDyno(): Promise<string> {
  const used = sheet.value?.pulls.at(-1)
  const known = shop.value?.dynos.find((d) => d.name === used?.dyno) ?? shop.value?.dynos[0]
  if (known) return known.id
  const [atEngine, atWheels] = [newId(), newId()]
  await told(
    api.PUT('/api/dynos/{dyno_id}', {
      params: { path: { dyno_id: atEngine } },
      body: { name: 'Engine dyno', measures: 'engine' },
    }),
  )
  await told(
    api.PUT('/api/dynos/{dyno_id}', {
      params: { path: { dyno_id: atWheels } },
      body: { name: 'Roller dyno', measures: 'wheel' },
    }),
  )
  await loadShop()
  return atEngine
}

async function take(files: FileList | null | undefined): Promise<void> {
  const dyno = await ensureDyno()
  for (const file of files ?? []) {
    const taken = pending.value.map((p) => p.build_id)
    await look(file, guessBuild(file.name, sheet.value?.designs ?? [], taken), dyno)
  }
  if (chooser.value) chooser.value.value = ''
}

async function onDrop(event: DragEvent): Promise<void> {
  over.value = false
  await take(event.dataTransfer?.files)
}

async function keepFirst(): Promise<void> {
  if (first.value && (await keep(first.value, personId.value))) await Promise.all([load(), reload()])
}

function answer(patch: Record<string, unknown>): void {
  const p = first.value
  if (!p) return
  const { dyno_id, mapping, ...rest } = patch
  if (dyno_id) p.dyno_id = String(dyno_id)
  if (mapping) p.mapping = mapping as typeof p.mapping
  p.extra = { ...p.extra, ...rest }
  p.problem = undefined
  void keepFirst()
}

function setBand(): void {
  const [from, to] = [whole(low.value), whole(high.value)]
  if (from === null || to === null || from >= to) {
    error.value = `'${low.value}' to '${high.value}' rpm is no band. Type two speeds, the lower first.`
    return
  }
  error.value = ''
  bandOpen.value = false
  band.value = [from, to]
}

function openBand(): void {
  low.value = figures.value?.low_rpm.toFixed(0) ?? ''
  high.value = figures.value?.high_rpm.toFixed(0) ?? ''
  bandOpen.value = true
}

function nextDesign(): void {
  const pulled = (sheet.value?.designs ?? []).filter(
    (d) => d.pulls > 0 && d.build_id !== sheet.value?.stock?.build_id,
  )
  const at = pulled.findIndex((d) => d.build_id === sheet.value?.other?.build_id)
  other.value = pulled[(at + 1) % pulled.length]?.build_id
}

async function strike(): Promise<void> {
  if (!striking.value || !reason.value.trim()) return
  try {
    await told(
      api.PUT('/api/strikes/{reading_id}', {
        params: { path: { reading_id: striking.value } },
        body: {
          person_id: personId.value,
          reason: reason.value,
          struck_at: now(),
        },
      }),
    )
    striking.value = undefined
    reason.value = ''
    await Promise.all([load(), reload()])
  } catch (caught) {
    error.value = problemIn(caught, 'Try again.').detail
  }
}

useKeys([
  { key: 'o', says: 'open dyno files', run: () => chooser.value?.click() },
  { key: 'b', says: 'change the band', run: openBand },
  {
    key: 'q',
    says: 'power/torque difference',
    run: () => (strip.value = strip.value === 'power' ? 'torque' : 'power'),
  },
  { key: 'v', says: 'next build', run: nextDesign },
])

const emptyWords = computed(() => {
  if (sheet.value?.comparison) return 'These pulls can’t be compared.'
  return sheet.value?.pulls.length ? 'Only one side pulled.' : 'No pulls yet.'
})

const bandWords = computed(() => {
  const s = figures.value
  if (!s) return ''
  const use = !band.value && job.value?.use ? `${job.value.use}, ` : ''
  return `${use}${Math.round(s.low_rpm)} to ${Math.round(s.high_rpm)}`
})
</script>

<template>
  <div
    v-if="sheet"
    class="dyno"
    @dragover.prevent="over = true"
    @dragleave="over = false"
    @drop.prevent="onDrop"
  >
    <section class="work" :class="{ over }">
      <MappingPanel
        v-if="first"
        :key="first.id"
        :pending="first"
        :designs="sheet.designs"
        :dynos="shop?.dynos ?? []"
        :waiting="pending.length"
        @keep="keepFirst"
        @drop="drop(first)"
        @mapped="spread(first)"
        @choose="answer"
      />
      <template v-else-if="figures && compared?.power && compared.torque && sheet.stock && sheet.other">
        <div class="answer">
          <span class="big mono" :class="{ sure: figures.power.real }"
            >{{ figures.power.mean_difference.text }} {{ figures.power.unit }}</span
          >
          <span>
            <b>{{ figures.power.real ? 'clear' : 'too close to call' }}</b>: average over {{ bandWords }} rpm
            ({{ figures.power.mean_percent }})
            <span class="quiet"
              >· repeat pulls vary ±{{ figures.power.half_width.text }} {{ figures.power.unit }} ·
              {{ compared.basis }}</span
            >
          </span>
        </div>
        <Plate
          :torque="compared.torque"
          :power="compared.power"
          :band="figures"
          :stock="sheet.stock.name"
          :other="sheet.other.name"
          :band-words="bandWords"
          :strip="strip"
          :height="height"
        />
      </template>
      <div v-else class="nothing">
        <h2>{{ emptyWords }}</h2>
        <p>
          Drop dyno files here or press <KeyCap k="O" />: CSV or TSV with engine speed, and torque or power;
          map the columns once.
        </p>
      </div>
      <form v-if="bandOpen" class="band-form" @submit.prevent="setBand" @keydown.esc="bandOpen = false">
        <span>Band from</span>
        <InputText v-model="low" size="small" inputmode="numeric" aria-label="From, rpm" v-focus />
        <span>to</span>
        <InputText v-model="high" size="small" inputmode="numeric" aria-label="To, rpm" />
        <span>rpm</span>
        <Button type="submit" size="small">Set band <KeyCap k="Enter" /></Button>
      </form>
      <p v-if="error" class="harm" role="alert">{{ error }}</p>
      <ul v-if="sheet.pulls.length && !first" class="pulls narrow">
        <li v-for="p in sheet.pulls" :key="p.id" :class="{ struck: p.struck }">
          <b>{{ p.build }}</b> {{ day(p.taken_at) }} · {{ p.dyno }} ({{ p.measures }}) · {{ p.basis }} ·
          {{ p.row_count }} rows
          <a :href="`/api/pulls/${p.id}.csv`" download>CSV</a>
          <span v-if="p.struck" class="doubt">struck out: {{ p.struck.reason }}</span>
          <form
            v-else-if="striking === p.id"
            class="inline"
            @submit.prevent="strike"
            @keydown.esc="striking = undefined"
          >
            <InputText v-model="reason" size="small" placeholder="reason" aria-label="Reason" v-focus />
            <Button type="submit" size="small">Strike out</Button>
          </form>
          <button v-else type="button" class="plain-button link strike" @click="striking = p.id">
            strike out
          </button>
        </li>
      </ul>
      <div v-if="!first" class="keys narrow">
        <button type="button" @click="chooser?.click()"><KeyCap k="O" /> files</button>
        <button type="button" @click="openBand"><KeyCap k="B" /> band</button>
        <button type="button" @click="strip = strip === 'power' ? 'torque' : 'power'">
          <KeyCap k="Q" /> difference in {{ strip === 'power' ? 'torque' : 'power' }}
        </button>
        <button v-if="sheet.designs.filter((d) => d.pulls).length > 2" type="button" @click="nextDesign">
          <KeyCap k="V" /> next build
        </button>
      </div>
      <input
        ref="chooser"
        type="file"
        multiple
        class="hidden-to-eyes"
        accept=".csv,.tsv,.txt"
        tabindex="-1"
        aria-label="Dyno files"
        @change="take(($event.target as HTMLInputElement).files)"
      />
    </section>
    <Margin :title="job?.use ? `Verdict for ${job.use}` : 'Verdict'" :sentences="sentences">
      <template #end>
        <h3>Cautions</h3>
        <p v-for="caution in sheet.cautions" :key="caution" class="narrow quiet">{{ caution }}</p>
      </template>
    </Margin>
  </div>
  <NotShown v-else :why="failure" />
</template>

<style scoped>
.dyno {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 280px;
  min-height: 0;
}
.work {
  padding: 14px 20px 18px 28px;
  overflow-y: auto;
  border: 2px solid transparent;
}
.work.over {
  border-color: var(--dye);
  background: var(--dye-wash);
}
.answer {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  align-items: baseline;
  padding-bottom: 8px;
}
.big {
  font-size: 34px;
  font-weight: 600;
  color: var(--quiet);
}
.big.sure {
  color: var(--cut);
}
.nothing {
  display: grid;
  gap: 10px;
  max-width: 480px;
  padding: 80px 0;
}
.band-form,
.inline {
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 8px 0;
}
.inline {
  display: inline-flex;
  padding: 0;
}
.band-form :deep(.p-inputtext) {
  width: 90px;
}
.pulls {
  margin: 8px 0 0;
  padding: 0;
  list-style: none;
  font-size: 15px;
}
.pulls li {
  padding: 2px 0;
}
.struck b {
  text-decoration: line-through;
}
.link {
  margin-left: 10px;
  text-decoration: underline;
  color: var(--quiet);
}
.keys {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  padding-top: 10px;
  font-size: 15px;
}
.keys button {
  border: 0;
  padding: 0;
  background: none;
  cursor: pointer;
  font: inherit;
}
@media (max-width: 1000px) {
  .dyno {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
