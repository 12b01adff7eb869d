<script setup lang="ts">
/** Which design, for which use? Curves of all designs on one plate, how they stand over each use, the verdict beside. */
import { computed, ref, watch } from 'vue'
import DesignPlate from '@/charts/DesignPlate.vue'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import Margin from '@/ui/Margin.vue'
import { useSession } from '@/frame/session'
import { useJob } from '@/frame/job'
import NotShown from '@/ui/NotShown.vue'
import UseForm from './UseForm.vue'
import DesignTable from './DesignTable.vue'
import MatrixTable from './MatrixTable.vue'
import MappingPanel from './MappingPanel.vue'
import PullForm from './PullForm.vue'
import PullList from './PullList.vue'
import type { PullView, Struck } from './pullFacts'
import DynoForm from './DynoForm.vue'
import LogList from './LogList.vue'
import LogPanel from './LogPanel.vue'
import LiveScreen from './LiveScreen.vue'
import RecordedList from './RecordedList.vue'
import StartForm from './StartForm.vue'
import StrikeForm from './StrikeForm.vue'
import WatchedList from './WatchedList.vue'
import { useDyno } from './useDyno'
import { isLog } from './mapping'
import { useFiles } from './useFiles'
import { useRecording } from './useRecording'

const { id: jobId, reload } = useJob()
const { units } = useSession()
const dyno = useDyno()
const { beside, sheet, load, failure, judged, table, chosenUse, chosen, chosenByHand } = dyno
const { hidden, quantity, percent, observed, band, toUse, nextReference, step, hide } = dyno
const again = () => Promise.all([load(), dyno.loadBeside(), reload()])
const files = useFiles(jobId, sheet, again)
const { pending, first, takeFiles, takeWatched, keepFirst, choose, drop, spread } = files
const recording = useRecording(beside, files.takeRecording)
const chooser = ref<HTMLInputElement>()
const work = ref<HTMLElement>()
const over = ref(false)
const bandOpen = ref(false)
const dynoOpen = ref(false)
const editing = ref<PullView>()
const striking = ref<Struck>()
const height = computed(() => Math.max(330, Math.min(560, window.innerHeight - 424)))

/** What is opened or left is seen from its top. */
watch([first, editing, recording.busy, dynoOpen], () => work.value?.scrollTo(0, 0), { flush: 'post' })

const head = computed(() => judged.value?.head)
const sentences = computed(() => [
  ...(judged.value?.said ?? []),
  ...(sheet.value?.margin.filter((s) => s.tone !== 'next') ?? []),
  ...(sheet.value?.trust ?? []),
  ...(beside.value?.said ?? []),
  ...(sheet.value?.margin.filter((s) => s.tone === 'next') ?? []),
])
const marginTitle = computed(() =>
  recording.busy.value
    ? 'Before and during a pull'
    : chosenUse.value
      ? `Verdict for ${chosenUse.value.name}`
      : 'Verdict',
)
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

async function takeChosen(files: FileList | null): Promise<void> {
  await takeFiles(files)
  if (chooser.value) chooser.value.value = ''
}

async function onDrop(event: DragEvent): Promise<void> {
  over.value = false
  await takeFiles(event.dataTransfer?.files)
}

async function keptUse(name: string): Promise<void> {
  bandOpen.value = false
  toUse(name)
  await load()
}

async function remap(pull: PullView): Promise<void> {
  editing.value = undefined
  await files.takePull(pull)
}

async function saved(): Promise<void> {
  editing.value = striking.value = undefined
  dynoOpen.value = false
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
  { key: 'l', says: 'a live pull', run: recording.start },
  { key: 'e', says: 'the dyno and where it answers', run: () => (dynoOpen.value = !recording.busy.value) },
  ...uses,
  { key: 'b', says: 'another band, gears or a log', run: () => (bandOpen.value = true) },
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
    <section ref="work" class="work" :class="{ over }">
      <RecordedList
        v-if="recording.waiting.value.length && !first && !recording.open.value"
        :waiting="recording.waiting.value"
        @take="files.takeRecording"
        @left="again"
      />
      <WatchedList v-if="!first && !recording.busy.value" @take="takeWatched" />
      <LogPanel
        v-if="first && isLog(first)"
        :key="first.id"
        :pending="first"
        :designs="sheet.designs"
        :waiting="pending.length"
        @keep="keepFirst"
        @drop="drop(first)"
        @choose="choose"
      />
      <MappingPanel
        v-else-if="first"
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
        @remap="remap(editing)"
      />
      <LiveScreen
        v-else-if="recording.open.value"
        :key="recording.open.value.id"
        :recording="recording.open.value"
        :plate="sheet.plate ?? undefined"
        :basis="sheet.basis"
        :dynos="dyno.pulledOn.value"
        :designs="sheet.designs"
        :height="height"
      />
      <StartForm
        v-else-if="recording.starting.value && beside"
        :designs="sheet.designs"
        :start="beside.start"
        :declared="sheet.pulls.findLast((p) => !p.struck)?.declared ?? {}"
        :dyno="sheet.pulls.at(-1)?.dyno_id"
        @begun="again"
        @dyno="dynoOpen = true"
        @leave="recording.starting.value = false"
      />
      <DynoForm v-else-if="dynoOpen" @saved="saved" @leave="dynoOpen = false" />
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
          :shares="chosenUse?.shares ?? []"
          :band-words="bandWords"
          :peaks="peaks"
          :height="height"
          @band="band = $event"
        />
        <div class="keys narrow">
          <button type="button" @click="chooser?.click()"><KeyCap k="O" /> files</button>
          <button type="button" @click="recording.start()"><KeyCap k="L" /> live pull</button>
          <button type="button" @click="bandOpen = true"><KeyCap k="B" /> band, gears</button>
          <button type="button" @click="flip">
            <KeyCap k="T" /> {{ quantity === 'power' ? 'torque' : 'power' }}
          </button>
          <button type="button" @click="nextReference"><KeyCap k="D" /> against another</button>
          <button type="button" @click="percent = !percent">
            <KeyCap k="%" /> {{ percent ? table.unit : 'percent' }}
          </button>
          <button type="button" @click="observed = !observed">
            <KeyCap k="C" /> {{ observed ? 'corrected' : 'observed' }}
          </button>
          <button type="button" @click="hide(chosen)"><KeyCap k="Space" /> hide</button>
          <a :href="`/api/jobs/${jobId}/designs.svg?units=${units}`" download>SVG</a>
          <a :href="`/api/jobs/${jobId}/designs.png?units=${units}`" download>PNG</a>
          <a :href="`/api/jobs/${jobId}/designs.csv`" download>CSV</a>
        </div>
        <UseForm
          v-if="bandOpen"
          :use="chosenUse"
          :offered="sheet.offered"
          @look="((band = $event), (bandOpen = false))"
          @kept="keptUse"
          @leave="bandOpen = false"
        />
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
          <button type="button" @click="recording.start()"><KeyCap k="L" /> live pull</button>
        </div>
      </div>
      <p v-if="files.error.value" class="harm" role="alert">{{ files.error.value }}</p>
      <StrikeForm
        v-if="striking"
        :key="striking.id"
        :reading="striking"
        @struck="saved"
        @leave="striking = undefined"
      />
      <PullList
        v-if="sheet.pulls.length && !first && !editing && !recording.busy.value"
        :pulls="sheet.pulls"
        @edit="editing = $event"
        @strike="striking = $event"
      />
      <LogList
        v-if="beside?.logs.length && !first && !editing && !recording.busy.value"
        :logs="beside.logs"
        @strike="striking = { ...$event, build: `Log of ${$event.build}` }"
      />
      <input
        ref="chooser"
        type="file"
        multiple
        class="hidden-to-eyes"
        accept=".csv,.tsv,.txt,.xlsx"
        tabindex="-1"
        aria-label="Dyno files"
        @change="takeChosen(($event.target as HTMLInputElement).files)"
      />
    </section>
    <Margin :title="marginTitle" :sentences="recording.busy.value ? [] : sentences">
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
