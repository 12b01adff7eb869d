<script setup lang="ts">
/** One part: advertised beside measured, what it offers to its neighbours, what its seller claims, its pieces. */
import Button from 'primevue/button'
import { computed, nextTick, ref, watch } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { api, newId, now, problemIn, told, type Problem, type Schemas } from '@/api/client'
import { useSheet } from '@/api/sheet'
import ChoiceField from '@/ui/ChoiceField.vue'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import Margin from '@/ui/Margin.vue'
import PhotoStrip from '@/ui/PhotoStrip.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import { useSession } from '@/frame/session'
import ShopMark from '@/frame/ShopMark.vue'
import { useDraft, useEdited } from '@/ui/draft'
import { provideRefusal } from '@/ui/refusal'
import TextField from '@/ui/TextField.vue'
import NotShown from '@/ui/NotShown.vue'
import Screen from '@/ui/Screen.vue'
import PutAway from '@/ui/PutAway.vue'
import { offerUndo } from '@/frame/undo'
import { staleWays } from '@/ui/stale'
import { read, written, type PartForm } from './form'
import CompressorMap from './CompressorMap.vue'
import PartDrawing from './PartDrawing.vue'
import PartReadings from './PartReadings.vue'
import StatedForm from './StatedForm.vue'

const props = defineProps<{ partId: string }>()
const router = useRouter()
const { units, personId, shop } = useSession()
const { sheet, load, failure } = useSheet(
  () =>
    told(
      api.GET('/api/parts/{part_id}', {
        params: { path: { part_id: props.partId }, query: { units: units.value } },
      }),
    ),
  [units, () => props.partId],
)
const { form, version, dirty, refill, settled, givenUp, undoable, bringBack } = useEdited<PartForm>(
  `part.${props.partId}`,
)
const problem = ref<Problem>()
const kept = ref(false)
provideRefusal(problem)
const reading = ref({ quantity: 'flow', typed: '', depression: '28', bench: '', runner: '1' })
useDraft(`part.${props.partId}.reading`, reading)
const benches = computed(() => shop.value?.benches ?? [])
watch(benches, (now) => (reading.value.bench ||= now[0]?.id ?? ''), { immediate: true })
const entry = ref<InstanceType<typeof TextField>>()

watch(sheet, (found) => {
  if (!found) return
  refill(read(found), found.version)
  document.title = `${found.name} · Elvarn`
})

const manifold = computed(() => sheet.value?.kind === 'manifold')
const ofRunner = computed(() => manifold.value && !['opening', 'volume'].includes(reading.value.quantity))
const quantities = computed(() => [
  { value: 'flow', label: manifold.value ? 'flow of a runner' : 'flow' },
  { value: 'bore', label: 'bore' },
  { value: 'bore_out', label: 'bore at the outlet' },
  { value: 'length', label: 'length' },
  ...(manifold.value
    ? [
        { value: 'opening', label: 'opening' },
        { value: 'volume', label: 'plenum volume' },
      ]
    : []),
  ...(sheet.value?.kind === 'throttle' ? [{ value: 'shaft', label: 'shaft' }] : []),
])

async function keep(): Promise<void> {
  const [f, s] = [form.value, sheet.value]
  if (!f || !s) return
  kept.value = false
  try {
    await told(
      api.PATCH('/api/parts/{part_id}', {
        params: { path: { part_id: s.id } },
        body: { ...written(f, s), version: version.value },
      }),
    )
    problem.value = undefined
    kept.value = true
    settled()
    await load()
  } catch (error) {
    problem.value = problemIn(error, 'Your entry is still here.')
  }
}

function dropEdits(): void {
  givenUp()
  if (sheet.value) refill(read(sheet.value), sheet.value.version)
}

async function tried(work: () => Promise<unknown>): Promise<void> {
  try {
    await work()
    problem.value = undefined
  } catch (error) {
    problem.value = problemIn(error, 'Nothing was changed.')
  }
}
const putAway = (archived: boolean, on = sheet.value?.version ?? 0) =>
  tried(async () => {
    const params = { path: { part_id: props.partId } }
    await told(api.POST('/api/parts/{part_id}/away', { params, body: { version: on, archived } }))
    if (archived) {
      offerUndo(`“${sheet.value?.name ?? 'Part'}” put away`, () =>
        told(api.POST('/api/parts/{part_id}/away', { params, body: { version: on + 1, archived: false } })),
      )
      await router.push('/shelf')
    } else await load()
  })
const remove = () =>
  tried(async () => {
    const params = { path: { part_id: props.partId }, query: { version: sheet.value?.version ?? 0 } }
    await told(api.DELETE('/api/parts/{part_id}', { params }))
    await router.push('/shelf')
  })

const stale = staleWays(problem, version, keep, async () => {
  givenUp()
  await load()
  dropEdits()
})

async function measure(answer: Answer = {}): Promise<void> {
  const s = sheet.value
  const { quantity, typed, depression } = reading.value
  if (!s || !typed.trim()) return
  const ofPlenum = quantity === 'opening' || quantity === 'volume'
  const element_kind = manifold.value ? (ofPlenum ? 'plenum' : 'runner') : s.kind
  const shared = {
    person_id: personId.value,
    part_state_id: s.state_id,
    element_kind,
    cylinder: element_kind === 'runner' ? Number(reading.value.runner) : null,
    typed,
    taken_at: now(),
  }
  try {
    if (quantity === 'flow') {
      const bench_id = reading.value.bench || (benches.value[0]?.id ?? '')
      await told(
        api.PUT('/api/part-flows/{reading_id}', {
          params: { path: { reading_id: newId() } },
          body: { ...shared, bench_id, depression, ...answer },
        }),
      )
    } else {
      await told(
        api.PUT('/api/dimensions/{reading_id}', {
          params: { path: { reading_id: newId() } },
          body: { ...shared, job_id: null, quantity, accepted: answer.accepted ?? [] },
        }),
      )
    }
    reading.value.typed = ''
    problem.value = undefined
    await load()
  } catch (error) {
    problem.value = problemIn(error, 'Your entry is still here.')
  }
}
/** What was typed into the drawing: of the runner that is chosen, where it is a runner's. */
function measureAt(quantity: string, typed: string): void {
  reading.value = { ...reading.value, quantity, typed }
  void measure()
}
type Answer = { accepted?: string[]; replaces?: string[]; refitted?: boolean }
function answer(change: Record<string, unknown>): void {
  const { typed, ...rest } = change as Answer & { typed?: string }
  if (typed !== undefined) reading.value.typed = typed
  void measure(rest)
}

async function exchange(mine: Schemas['AssemblyPiece'], other: Schemas['ExchangeOffer']): Promise<void> {
  try {
    await told(
      api.POST('/api/pieces/exchange', {
        body: {
          person_id: personId.value,
          one_piece_id: mine.id,
          one_assembly_id: props.partId,
          other_piece_id: other.piece_id,
          other_assembly_id: other.assembly_id,
        },
      }),
    )
    await load()
  } catch (error) {
    problem.value = problemIn(error, 'Your entry is still here.')
  }
}
const offers = (p: Schemas['AssemblyPiece']) =>
  (sheet.value?.exchanges ?? []).filter((e) => e.role === p.role)

async function startFlow(): Promise<void> {
  reading.value.quantity = 'flow'
  await nextTick()
  entry.value?.select()
}
useKeys([
  { key: 'f', says: 'enter a flow reading', run: () => void startFlow() },
  ...Array.from({ length: 9 }, (_, i) => ({
    key: `${i + 1}`,
    says: `runner ${i + 1}`,
    run: () => {
      if (sheet.value?.drawn.runners.some((r) => r.cylinder === i + 1)) reading.value.runner = String(i + 1)
    },
  })),
  { key: 'k', says: 'save changes', run: () => void keep() },
  {
    key: 'h',
    says: 'history',
    run: () => void router.push(`/parts/${props.partId}/history`),
  },
])
</script>

<template>
  <Screen v-if="sheet && form">
    <header>
      <RouterLink :to="sheet.job_id ? `/jobs/${sheet.job_id}/path` : '/shelf'" class="narrow quiet"
        >◂ {{ sheet.job_title ?? 'Shelf' }}</RouterLink
      >
      <h1>{{ sheet.name }}</h1>
      <span class="quiet narrow">{{ sheet.kind }} · {{ sheet.states.join(' → ') }}</span>
      <span class="space" />
      <RouterLink :to="`/parts/${sheet.id}/history`" class="narrow"><KeyCap k="H" /> history</RouterLink>
      <ShopMark />
    </header>
    <PartDrawing
      :drawn="sheet.drawn"
      :kind="sheet.kind"
      :chosen="Number(reading.runner) || 1"
      :flow-unit="units === 'trade' ? 'CFM at 28 inH2O' : 'm³/h at 7 kPa'"
      @measure="measureAt"
      @choose="(cylinder) => (reading.runner = String(cylinder))"
    />
    <div class="columns">
      <div>
        <PartReadings :sheet="sheet" @changed="load" />
        <form class="measure" @submit.prevent="measure()">
          <ChoiceField v-model="reading.quantity" label="Measure" :options="quantities" small />
          <TextField
            ref="entry"
            v-model="reading.typed"
            :label="reading.quantity === 'flow' ? 'Read' : 'Measured'"
            :placeholder="reading.quantity === 'flow' ? '620' : '70 mm or 2 3/4 in'"
            small
          />
          <TextField v-if="ofRunner" v-model="reading.runner" label="of runner" small inputmode="numeric" />
          <TextField v-if="reading.quantity === 'flow'" v-model="reading.depression" label="at inH2O" small />
          <ChoiceField
            v-if="reading.quantity === 'flow' && benches.length > 1"
            v-model="reading.bench"
            label="on"
            :options="benches"
            shown="name"
            kept="id"
            small
          />
          <Button type="submit" size="small">Save <KeyCap k="Enter" /></Button>
        </form>
        <ProblemNote v-if="problem" :problem="problem" :stale="stale" @choose="answer" />
        <template v-if="sheet.pieces.length">
          <h2>Pieces</h2>
          <ul class="pieces">
            <li v-for="p in sheet.pieces" :key="p.id">
              <strong>{{ p.name }}</strong> <span class="narrow quiet">{{ p.role }}, {{ p.state }}</span>
              <button
                v-for="o in offers(p)"
                :key="o.piece_id"
                type="button"
                class="way"
                @click="exchange(p, o)"
              >
                swap with {{ o.words }}
              </button>
            </li>
          </ul>
        </template>
        <CompressorMap
          v-if="sheet.kind === 'compressor'"
          :part-id="sheet.id"
          :version="sheet.version"
          :points="sheet.features.map_points ?? []"
          @taken="load"
        />
        <h2>Photos</h2>
        <PhotoStrip :photos="sheet.photos" :part-id="sheet.id" @added="load" />
        <PutAway
          v-if="!sheet.job_id"
          what="part"
          :archived="sheet.archived"
          @away="(archived) => putAway(archived)"
          @remove="remove"
        />
      </div>
      <StatedForm
        v-model="form"
        :sheet="sheet"
        :kept="kept"
        :dirty="dirty"
        :undoable="undoable"
        @keep="keep"
        @drop="dropEdits"
        @undo="(bringBack(), keep())"
      />
    </div>
    <template #margin><Margin title="Part notes" :sentences="sheet.margin" /></template>
  </Screen>
  <NotShown v-else :why="failure" />
</template>

<style scoped>
header {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 6px 16px;
  padding-bottom: 8px;
  border-bottom: 1px solid var(--hair);
}
header a {
  text-decoration: none;
}
.space {
  flex: 1;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.1fr);
  gap: 32px;
  padding-top: 10px;
}
h2 {
  padding: 8px 0 4px;
}
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  text-align: right;
  font-weight: 400;
  padding: 2px 0 2px 12px;
  border-bottom: 1px solid var(--faint);
}
th:first-child {
  text-align: left;
  padding-left: 0;
}
.sans {
  font-family: var(--sans);
}
.measure {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 8px 12px;
  padding: 8px 0;
}
.measure :deep(.field) {
  flex: 1 1 110px;
}
.measure :deep(.p-inputtext) {
  width: 100%;
}
.pieces {
  list-style: none;
  margin: 0;
  padding: 0;
}
.pieces li {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: baseline;
  padding: 3px 0;
}
@media (max-width: 1000px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
