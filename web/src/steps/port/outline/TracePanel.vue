<script setup lang="ts">
/** One outline traced: which opening, how large, where its bolt holes are, and what it is of. */
import Button from 'primevue/button'
import { computed, nextTick, ref } from 'vue'
import { api, newId, now, problemIn, told, type Schemas } from '@/api/client'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import { useSession } from '@/frame/session'
import ChoiceField from '@/ui/ChoiceField.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import Screen from '@/ui/Screen.vue'
import TextField from '@/ui/TextField.vue'
import { areaOf, dpiOf, mmOf } from './outline'
import TracePicture from './TracePicture.vue'
import { useTracing, type Tool } from './useTracing'

const props = defineProps<{ jobId: string; sheet: Schemas['OutlineSheet'] }>()
const emit = defineEmits<{ saved: []; leave: [] }>()
const { personId } = useSession()
const t = useTracing(props.jobId, () => personId.value)
const { source, tool, chosen, lengths, first, second, corners, sides, holes, inches, note, problem, busy } = t
const of = ref('runner')
const runner = ref('1')
const place = ref(`${props.sheet.exit_mm} mm`)
const seenFrom = ref('entry')
const turn = ref('0')
const typed = ref('')
const kept = ref('')
const input = ref<HTMLInputElement>()
const picture = ref<InstanceType<typeof TracePicture>>()
const lengthField = ref<{ select: () => void }>()

const kinds = computed(() => Object.entries(props.sheet.kinds).map(([value, label]) => ({ value, label })))
const SIDES = [
  { value: 'entry', label: 'from the entry' },
  { value: 'head', label: "from the head's side" },
]
const UNITS = [
  { value: false, label: 'mm' },
  { value: true, label: 'in' },
]
const perRunner = computed(() => !['opening', 'throttle'].includes(of.value))
const says: Record<Tool, string> = {
  opening: 'Tap inside the opening.',
  scale: 'Tap two marks of the ruler, then type how far they are apart.',
  corners: 'Tap the four corners of a rectangle, from the upper left clockwise.',
  holes: 'Tap two bolt holes; the same two on whatever it meets.',
  hand: 'Tap point after point round the opening; tap the first again to close.',
  move: 'Drag the points; or N for the next, arrows move it by a dot.',
}
const lines = computed(() => [
  ...lengths.value.map((l) => ({ from: l.first, to: l.second, says: l.typed })),
  ...(first.value && second.value ? [{ from: first.value, to: second.value, says: '?' }] : []),
])
const marks = computed(() => [
  ...(first.value && !second.value ? [{ at: first.value, says: 'from' }] : []),
  ...corners.value.map((at, n) => ({ at, says: `corner ${n + 1}` })),
  ...holes.value.map((at, n) => ({ at, says: `hole ${n + 1}` })),
])
const scaleSays = computed(() => {
  const [one] = lengths.value
  if (source.value?.drawn) return source.value.drawn.unitTold ? 'in mm, as the file says' : ''
  if (corners.value.length === 4 && sides.value.width && sides.value.height) return 'by four corners'
  if (!one) return 'none yet: no millimetre without one'
  const mm = mmOf(one.typed)
  if (!mm) return `${lengths.value.length} known`
  const dpi = dpiOf(one.first, one.second, mm)
  const told = source.value?.dpi
  const apart = told
    ? `; the file says ${told.toFixed(0)}, ${(100 * Math.abs(dpi / told - 1)).toFixed(1)} % apart`
    : ''
  return `${lengths.value.length} known, ${dpi.toFixed(0)} dpi${apart}`
})
const areaSays = computed(() => {
  if (!chosen.value.length) return 'none chosen'
  const { drawn } = source.value ?? {}
  const [one] = lengths.value
  const dots = areaOf(chosen.value)
  if (drawn) return `${((dots / drawn.dots ** 2) * (inches.value ? 645.16 : 1)).toFixed(0)} mm²`
  const mm = one && mmOf(one.typed)
  if (!one || !mm) return 'chosen; its area follows from the scale'
  return `about ${(dots * (mm / Math.hypot(one.second[0] - one.first[0], one.second[1] - one.first[1])) ** 2).toFixed(0)} mm²`
})

async function tapped(at: [number, number], within: number): Promise<void> {
  t.tap(at, within)
  if (tool.value !== 'scale' || !second.value) return
  await nextTick()
  lengthField.value?.select()
}
function keepLength(): void {
  t.keepLength(typed.value)
  typed.value = ''
  ;(document.activeElement as HTMLElement | null)?.blur()
}
async function save(patch: Record<string, unknown> = {}): Promise<void> {
  if (!chosen.value.length) {
    note.value = 'Choose an opening first.'
    return
  }
  const isRunner = of.value === 'runner'
  const body = {
    person_id: personId.value,
    job_id: props.jobId,
    part_state_id: props.sheet.state_id,
    of: of.value,
    cylinder: perRunner.value && runner.value.trim() ? Number(runner.value) : null,
    place: isRunner ? place.value : '',
    taken_at: now(),
    seen_from: seenFrom.value,
    turn_deg: Number(turn.value.replace(',', '.').replace('−', '-')) || 0,
    ...t.body(),
    ...patch,
  }
  try {
    await told(
      api.PUT('/api/outline-readings/{reading_id}', {
        params: { path: { reading_id: newId() } },
        body: body as never,
      }),
    )
    problem.value = undefined
    kept.value = `${props.sheet.kinds[of.value]}${perRunner.value && runner.value ? ` ${runner.value}` : ''} kept.`
    if (perRunner.value && Number(runner.value) < props.sheet.runners)
      runner.value = String(Number(runner.value) + 1)
    t.again()
    emit('saved')
  } catch (caught) {
    problem.value = problemIn(caught, 'Nothing is lost; save again.')
  }
}
const use = (next: Tool) => (tool.value = next)
function enter(): void {
  if (!source.value) input.value?.click()
  else if (tool.value === 'hand' && t.drawing.value.length) t.closeByHand()
  else void save()
}
useKeys([
  { key: 'Escape', says: 'leave the picture', run: () => emit('leave') },
  { key: 'a', says: 'choose a file', run: () => input.value?.click() },
  { key: 't', says: 'choose the opening', run: () => use('opening') },
  { key: 'k', says: 'mark a known length', run: () => use('scale') },
  { key: 'c', says: 'corners of a rectangle', run: () => use('corners') },
  { key: 'h', says: 'bolt holes', run: () => use('holes') },
  { key: 'm', says: 'mark points by hand', run: () => use('hand') },
  { key: 'e', says: 'move points', run: () => use('move') },
])
const TOOLS: { tool: Tool; key: string; says: string }[] = [
  { tool: 'opening', key: 'T', says: 'opening' },
  { tool: 'move', key: 'E', says: 'move points' },
  { tool: 'hand', key: 'M', says: 'by hand' },
  { tool: 'scale', key: 'K', says: 'known length' },
  { tool: 'corners', key: 'C', says: 'corners' },
  { tool: 'holes', key: 'H', says: 'bolt holes' },
]
const tools = computed(() =>
  TOOLS.filter((one) => !source.value?.drawn || !['scale', 'corners'].includes(one.tool)),
)
function dropped(files: FileList | null | undefined): void {
  const [file] = files ?? []
  if (file) void t.add(file)
}
</script>

<template>
  <Screen @dragover.prevent @drop.prevent.stop="dropped($event.dataTransfer?.files)">
    <template #take>
      <h2>Trace an outline</h2>
      <p v-if="!source" class="quiet">
        A flatbed scan at 300 to 600 dpi, or a photo straight from above, with a ruler in it; or a DXF or SVG.
      </p>
      <input
        ref="input"
        type="file"
        accept="image/jpeg,image/png,image/webp,.dxf,.svg"
        class="hidden-to-eyes"
        aria-label="Scan, photo or drawing"
        @change="dropped(($event.target as HTMLInputElement).files)"
      />
      <Button v-if="!source" size="large" :disabled="busy" @click="input?.click()">
        {{ busy ? 'Looking for outlines…' : 'Choose a file' }} <KeyCap k="Enter" />
      </Button>
      <template v-else>
        <dl>
          <dt>Opening</dt>
          <dd :class="{ quiet: !chosen.length }">{{ areaSays }}</dd>
          <dt>Scale</dt>
          <dd :class="{ doubt: !t.scaled.value }">{{ scaleSays }}</dd>
          <dt>Bolt holes</dt>
          <dd :class="{ quiet: holes.length < 2 }">
            {{ holes.length === 2 ? 'two' : `${holes.length} of 2; without, laid centre on centre` }}
          </dd>
        </dl>
        <form v-if="tool === 'scale'" class="fields" @submit.prevent="keepLength">
          <TextField ref="lengthField" v-model="typed" label="Apart: 100 mm, 4 in" place="picture.lengths" />
          <Button type="submit" size="small" outlined :disabled="!second">Set</Button>
          <Button v-if="source.dpi && !lengths.length" size="small" text @click="t.trustFile()">
            Take the file's {{ source.dpi.toFixed(0) }} dpi
          </Button>
          <Button v-if="lengths.length" size="small" text @click="t.clearLengths()">Clear</Button>
        </form>
        <div v-if="tool === 'corners'" class="fields">
          <TextField v-model="sides.width" label="Rectangle, width" place="picture.width" />
          <TextField v-model="sides.height" label="height" place="picture.height" />
        </div>
        <ChoiceField
          v-if="source.drawn && !source.drawn.unitTold"
          v-model="inches"
          label="The file's unit"
          :options="UNITS"
        />
        <form class="fields what" @submit.prevent="save()">
          <ChoiceField v-model="of" label="It is of" :options="kinds" />
          <TextField
            v-if="perRunner"
            v-model="runner"
            :label="of === 'runner' ? 'Runner' : 'Runner, empty: all'"
            place="cylinder"
          />
          <TextField v-if="of === 'runner'" v-model="place" label="So far in" place="place" />
          <ChoiceField v-model="seenFrom" label="Seen" :options="SIDES" />
          <TextField v-model="turn" label="Turn left, °" place="turn_deg" />
        </form>
        <Button class="main" size="large" :disabled="!chosen.length || !t.scaled.value" @click="save()"
          >Keep outline <KeyCap k="Enter"
        /></Button>
        <p v-if="kept" class="quiet" role="status">{{ kept }} Next opening, or Esc.</p>
      </template>
      <ProblemNote v-if="problem" :problem="problem" @choose="save" />
      <Button size="small" outlined @click="emit('leave')">Back <KeyCap k="Esc" /></Button>
    </template>
    <template v-if="source">
      <div class="tools">
        <button
          v-for="one in tools"
          :key="one.tool"
          type="button"
          class="way"
          :aria-pressed="tool === one.tool"
          @click="use(one.tool)"
        >
          {{ one.says }} <KeyCap :k="one.key" />
        </button>
      </div>
      <p class="says">{{ note || says[tool] }}</p>
      <TracePicture
        ref="picture"
        :key="source.name + source.width"
        :width="source.width"
        :height="source.height"
        :src="source.digest ? `/api/pictures/${source.digest}` : undefined"
        :found="source.found"
        :chosen="chosen"
        :lines="lines"
        :marks="marks"
        :moving="tool === 'move'"
        :drawing="t.drawing.value"
        @tap="tapped"
        @move="t.move"
        @enter="enter"
      />
      <p class="quiet narrow">
        {{ source.name }}, {{ source.width.toFixed(0) }} × {{ source.height.toFixed(0) }} dots,
        {{ source.found.length }}
        outlines found
      </p>
      <p class="quiet narrow">
        <button type="button" class="way" @click="picture?.nearer(2)">nearer <KeyCap k="+" /></button>
        <button type="button" class="way" @click="picture?.nearer(0.5)">further <KeyCap k="-" /></button>
        arrows and 4 6 8 2 move the crosshair, Enter marks
      </p>
    </template>
    <p v-else class="drop quiet">Drop a scan, a photo or a drawing here.</p>
    <template #margin>
      <aside class="how">
        <h3>How it gets true</h3>
        <p>
          A flatbed at 600 dpi is good to about 0.1 mm. A photo is, only straight from above and from afar.
        </p>
        <p>
          Two known lengths, one across the other, show whether it was. From aside, mark four corners of a
          card.
        </p>
        <p>
          Hours are seen from the entry, looking along the stream: a gasket laid face down is seen from the
          head's side.
        </p>
      </aside>
    </template>
  </Screen>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: 84px minmax(0, 1fr);
  gap: 4px 10px;
  margin: 0;
}
dt {
  font-family: var(--narrow);
  color: var(--quiet);
}
dd {
  margin: 0;
}
.fields {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: end;
}
.what > * {
  flex: 1 1 130px;
}
.fields :deep(input) {
  width: 100%;
}
.fields:not(.what) > .field {
  width: 150px;
}
.main {
  min-height: 56px;
}
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.tools .way[aria-pressed='true'] {
  border-color: var(--dye);
  color: var(--dye);
  box-shadow: inset 0 -2px 0 var(--dye);
}
.says {
  padding: 8px 0;
  font-weight: 600;
}
.drop {
  display: grid;
  place-content: center;
  min-height: 320px;
  border: 2px dashed var(--hair);
}
.how {
  display: grid;
  gap: 10px;
  align-content: start;
  padding: 18px 20px;
  border-left: 1px solid var(--hair);
}
</style>
