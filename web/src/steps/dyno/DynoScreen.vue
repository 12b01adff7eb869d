<script setup lang="ts">
/** Which design, for which use? Curves of all designs on one plate, how they stand over each use, the verdict beside. */
import InputText from 'primevue/inputtext'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { vFocus } from '@/ui/focus'
import { api, newId, now, problemIn, told } from '@/api/client'
import DesignPlate from '@/charts/DesignPlate.vue'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import Margin from '@/ui/Margin.vue'
import { useSession } from '@/frame/session'
import { useJob } from '@/frame/job'
import NotShown from '@/ui/NotShown.vue'
import BandForm from './BandForm.vue'
import DesignTable from './DesignTable.vue'
import MatrixTable from './MatrixTable.vue'
import MappingPanel from './MappingPanel.vue'
import PullForm from './PullForm.vue'
import PullList from './PullList.vue'
import { guessBuild, usePending } from './mapping'
import type { PullView } from './pullFacts'
import { useDyno } from './useDyno'

const { id: jobId, reload } = useJob()
const { shop, personId, loadShop, units } = useSession()
const { pending, look, keep, spread, answer, drop } = usePending(jobId)
const dyno = useDyno()
const { sheet, load, failure, judged, table, chosenUse, chosen, chosenByHand } = dyno
const { hidden, quantity, percent, observed, band, toUse, nextReference, step, hide } = dyno
const first = computed(() => pending.value[0])
const chooser = ref<HTMLInputElement>()
const over = ref(false)
const bandOpen = ref(false)
const error = ref('')
const editing = ref<PullView>()
const striking = ref<PullView>()
const reason = ref('')
const height = computed(() => Math.max(330, Math.min(560, window.innerHeight - 424)))

const head = computed(() => judged.value?.head)
const sentences = computed(() => [
  ...(judged.value?.said ?? []),
  ...(sheet.value?.margin.filter((s) => s.tone !== 'next') ?? []),
  ...(sheet.value?.trust ?? []),
  ...(sheet.value?.margin.filter((s) => s.tone === 'next') ?? []),
])
const bandNow = computed<[number, number] | undefined>(() =>
  chosenUse.value ? [chosenUse.value.low_rpm, chosenUse.value.high_rpm] : undefined,
)
const bandWords = computed(() => {
  const u = chosenUse.value
  return u ? `${u.name}, ${u.low_rpm.toFixed(0)} to ${u.high_rpm.toFixed(0)}` : ''
})
const peaks = computed(() => ({
  stock: table.value?.rows[0]?.peak?.engine_speed_rpm,
  other: table.value?.rows.find((r) => r.build_id === chosen.value)?.peak?.engine_speed_rpm,
}))
const emptyWords = computed(() => (sheet.value?.pulls.length ? 'No pull that counts.' : 'No pulls yet.'))

/** The dyno used last; a shop that has named none yet chooses between one at the engine and one on rollers. */
async function ensureDyno(): Promise<string> {
  const used = sheet.value?.pulls.at(-1)
  const known = used?.dyno_id ?? shop.value?.dynos[0]?.id
  if (known) return known
  const [atEngine, onRollers] = [newId(), newId()]
  for (const [dyno_id, name, kind] of [
    [atEngine, 'Engine dyno', 'engine'],
    [onRollers, 'Roller dyno', 'roller'],
  ] as const)
    await told(api.PUT('/api/dynos/{dyno_id}', { params: { path: { dyno_id } }, body: { name, kind } }))
  await loadShop()
  return atEngine
}

async function take(files: FileList | null | undefined): Promise<void> {
  const dynoId = await ensureDyno()
  for (const file of files ?? []) {
    const taken = pending.value.map((p) => p.facts.build_id)
    const build = guessBuild(file.name, sheet.value?.designs ?? [], taken)
    await look(
      file,
      build,
      dynoId,
      sheet.value?.pulls.findLast((p) => !p.struck),
    )
  }
  if (chooser.value) chooser.value.value = ''
}

async function onDrop(event: DragEvent): Promise<void> {
  over.value = false
  await take(event.dataTransfer?.files)
}

const again = () => Promise.all([load(), reload()])

async function keepFirst(): Promise<void> {
  if (first.value && (await keep(first.value, personId.value))) await again()
}

function choose(patch: Record<string, unknown>): void {
  if (!first.value) return
  answer(first.value, patch)
  if (patch['mapping']) spread(first.value)
  void keepFirst()
}

async function keptUse(name: string): Promise<void> {
  bandOpen.value = false
  toUse(name)
  await load()
}

async function strike(): Promise<void> {
  if (!striking.value || !reason.value.trim()) return
  try {
    await told(
      api.PUT('/api/strikes/{reading_id}', {
        params: { path: { reading_id: striking.value.id } },
        body: { person_id: personId.value, reason: reason.value, struck_at: now() },
      }),
    )
    striking.value = undefined
    reason.value = ''
    await again()
  } catch (caught) {
    error.value = problemIn(caught, 'Try again.').detail
  }
}

async function saved(): Promise<void> {
  editing.value = undefined
  await again()
}

const flip = () => (quantity.value = quantity.value === 'power' ? 'torque' : 'power')
const uses = Array.from({ length: 6 }, (_, i) => ({
  key: String(i + 1),
  says: `use ${i + 1}`,
  run: () => {
    const found = table.value?.uses[i]
    if (found) toUse(found.name)
  },
}))
useKeys([
  { key: 'o', says: 'open dyno files', run: () => chooser.value?.click() },
  ...uses,
  { key: 'b', says: 'another band', run: () => (bandOpen.value = true) },
  { key: 't', says: 'torque or power', run: flip },
  { key: 'd', says: 'against the next design', run: nextReference },
  { key: '%', says: 'percent or figures', run: () => (percent.value = !percent.value) },
  { key: 'c', says: 'corrected or as observed', run: () => (observed.value = !observed.value) },
  { key: 'ArrowDown', says: 'next design', run: () => step(1) },
  { key: 'ArrowUp', says: 'design before', run: () => step(-1) },
  { key: ' ', says: 'hide the marked design, or show it', run: () => hide(chosen.value) },
])
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
        :items="sheet.items"
        :waiting="pending.length"
        @keep="keepFirst"
        @drop="drop(first)"
        @mapped="spread(first)"
        @choose="choose"
      />
      <PullForm
        v-else-if="editing"
        :key="editing.id"
        :pull="editing"
        :designs="sheet.designs"
        :items="sheet.items"
        @saved="saved"
        @leave="editing = undefined"
      />
      <template v-else-if="sheet.plate && table && head">
        <div class="answer">
          <span v-if="head.figure" class="big mono" :class="{ sure: head.real }"
            >{{ head.figure.text }} <small>{{ head.figure.unit }}</small></span
          >
          <span class="told">
            <b>{{ head.unlike || head.words }}</b>
            <span class="quiet">{{ head.where }}</span>
          </span>
        </div>
        <DesignPlate
          :plate="sheet.plate"
          :designs="sheet.designs"
          :hidden="hidden"
          :chosen="chosen"
          :quantity="quantity"
          :band="bandNow"
          :band-words="bandWords"
          :peaks="peaks"
          :height="height"
        />
        <div class="keys narrow">
          <button type="button" @click="chooser?.click()"><KeyCap k="O" /> files</button>
          <button type="button" @click="bandOpen = true"><KeyCap k="B" /> band</button>
          <button type="button" @click="flip">
            <KeyCap k="T" /> {{ quantity === 'power' ? 'torque' : 'power' }}
          </button>
          <button type="button" @click="nextReference"><KeyCap k="D" /> against another</button>
          <button type="button" @click="percent = !percent">
            <KeyCap k="%" /> {{ percent ? table.unit : 'percent' }}
          </button>
          <button type="button" @click="observed = !observed">
            <KeyCap k="C" /> {{ observed ? 'corrected' : 'as observed' }}
          </button>
          <button type="button" @click="hide(chosen)"><KeyCap k="Space" /> hide the marked one</button>
          <a :href="`/api/jobs/${jobId}/designs.svg?units=${units}`" download>picture</a>
          <a :href="`/api/jobs/${jobId}/designs.csv`" download>curves, CSV</a>
        </div>
        <div class="lower" :class="{ both: judged?.matrix }">
          <DesignTable
            :table="table"
            :designs="sheet.designs"
            :hidden="hidden"
            :chosen="chosen"
            :percent="percent"
            @use="toUse"
            @choose="chosenByHand = $event"
          />
          <MatrixTable
            v-if="judged?.matrix"
            :matrix="judged.matrix"
            :designs="sheet.designs"
            :chosen="chosen"
            :use="chosenUse?.name ?? ''"
            :unit="table.unit"
            :percent="percent"
            @choose="chosenByHand = $event"
          />
        </div>
      </template>
      <div v-else class="nothing">
        <h2>{{ emptyWords }}</h2>
        <p>
          Drop dyno files here or press <KeyCap k="O" />: CSV, TSV or XLSX with engine speed, and torque or
          power; map the columns once.
        </p>
        <div class="keys narrow">
          <button type="button" @click="chooser?.click()"><KeyCap k="O" /> files</button>
        </div>
      </div>
      <BandForm
        v-if="bandOpen"
        :use="chosenUse"
        @look="((band = $event), (bandOpen = false))"
        @kept="keptUse"
        @leave="bandOpen = false"
      />
      <p v-if="error" class="harm" role="alert">{{ error }}</p>
      <form v-if="striking" class="strike-form" @submit.prevent="strike" @keydown.esc="striking = undefined">
        <span>{{ striking.build }}, {{ striking.label }}:</span>
        <InputText v-model="reason" size="small" placeholder="reason" aria-label="Reason" v-focus />
        <Button type="submit" size="small">Strike out</Button>
      </form>
      <PullList
        v-if="sheet.pulls.length && !first && !editing"
        :pulls="sheet.pulls"
        @edit="editing = $event"
        @strike="striking = $event"
      />
      <input
        ref="chooser"
        type="file"
        multiple
        class="hidden-to-eyes"
        accept=".csv,.tsv,.txt,.xlsx"
        tabindex="-1"
        aria-label="Dyno files"
        @change="take(($event.target as HTMLInputElement).files)"
      />
    </section>
    <Margin :title="chosenUse ? `Verdict for ${chosenUse.name}` : 'Verdict'" :sentences="sentences">
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
  display: grid;
  grid-auto-rows: max-content;
  gap: 8px;
  align-content: start;
  padding: 10px 20px 18px 28px;
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
  gap: 0 20px;
  align-items: center;
}
.big {
  font-size: 46px;
  font-weight: 600;
  line-height: 1.05;
  color: var(--ink);
}
.big small {
  font-size: 22px;
}
.big.sure {
  color: var(--cut);
}
.told {
  display: grid;
}
.told b {
  font-size: 18px;
}
.lower {
  display: grid;
  gap: 8px 28px;
  align-items: start;
}
.lower.both {
  grid-template-columns: minmax(0, 1.25fr) minmax(0, 1fr);
}
.nothing {
  display: grid;
  gap: 10px;
  max-width: 480px;
  padding: 80px 0;
}
.strike-form {
  display: flex;
  gap: 10px;
  align-items: center;
}
.strike-form :deep(.p-inputtext) {
  width: 90px;
}
.keys {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
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
  .dyno,
  .lower.both {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
