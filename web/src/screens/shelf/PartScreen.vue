<script setup lang="ts">
/** One part: advertised beside measured, what it offers to its neighbours, what its seller claims, its pieces. */
import Button from 'primevue/button'
import { computed, nextTick, onMounted, ref, shallowRef, watch } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { fill, get, newId, now, patch, post, put, Refused, type Problem, type Schemas } from '@/api/client'
import ChoiceField from '@/shared/ChoiceField.vue'
import { figure, whole } from '@/shared/figures'
import KeyCap from '@/shared/KeyCap.vue'
import { useKeys } from '@/shared/keys'
import Margin from '@/shared/Margin.vue'
import PhotoStrip from '@/shared/PhotoStrip.vue'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useSession } from '@/shared/session'
import ShopMark from '@/shared/ShopMark.vue'
import TextField from '@/shared/TextField.vue'
import { bends, claimed, joint, sections, lines, plugs, homes, read, type PartForm } from './form'

const props = defineProps<{ partId: string }>()
const router = useRouter()
const { units, personId, shop } = useSession()
const sheet = shallowRef<Schemas['PartSheet']>()
const form = ref<PartForm>()
const problem = ref<Problem>()
const kept = ref(false)
const reading = ref({ quantity: 'flow', typed: '', depression: '28', bench: '' })
const benches = computed(() => shop.value?.benches ?? [])
const entry = ref<InstanceType<typeof TextField>>()

async function load(): Promise<void> {
  await fill(sheet, get(`/api/parts/${props.partId}?units=${units.value}`))
  if (sheet.value) {
    form.value = read(sheet.value)
    document.title = `${sheet.value.name} · Elvarn`
  }
}
onMounted(load)
watch([units, () => props.partId], load)

const manifold = computed(() => sheet.value?.kind === 'manifold')
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

function said(error: unknown): Problem {
  if (error instanceof Refused) return error.problem
  const detail = 'Elvarn does not answer. What you typed stays here.'
  return { type: '', title: '', status: 0, detail, code: 'unreachable', offers: [] }
}

async function keep(): Promise<void> {
  const [f, s] = [form.value, sheet.value]
  if (!f || !s) return
  kept.value = false
  try {
    await patch(`/api/parts/${s.id}`, {
      version: s.version,
      name: f.name,
      maker: f.maker || null,
      number: f.number || null,
      material: f.material || null,
      mass_kg: figure(f.mass),
      price: figure(f.price),
      lead_days: whole(f.lead),
      note: f.note,
      advertised: {
        ...s.advertised,
        bore_mm: figure(f.advertisedBore),
        bore_out_mm: figure(f.advertisedOut),
        length_mm: figure(f.advertisedLength),
        volume_l: figure(f.advertisedVolume),
        flow_cfm: figure(f.advertisedFlow),
      },
      features: {
        ...s.features,
        inlet: joint(f.inlet),
        outlet: joint(f.outlet),
        swing_mm: figure(f.swing),
        height_mm: figure(f.height),
        front_length_mm: figure(f.front),
        boost_kpa: figure(f.boost),
        heat_limit_c: figure(f.heat),
        flange_metal_mm: figure(f.flangeMetal),
        weldable: f.weldable,
        splits: f.splits,
        ports: lines(f.ports),
        plugs: plugs(f.plugs),
        homes: homes(f.homes),
        fouls: lines(f.fouls),
        fuels: lines(f.fuels),
        bends: bends(f.bends),
        sections: sections(f.sections),
        ribbed: f.ribbed,
        cast: f.cast,
      },
      claims: claimed(f.claims).map((words) => s.claims.find((c) => c.words === words) ?? { words }),
    })
    problem.value = undefined
    kept.value = true
    await load()
  } catch (error) {
    problem.value = said(error)
  }
}

async function measure(accepted: string[] = []): Promise<void> {
  const s = sheet.value
  const { quantity, typed, depression } = reading.value
  if (!s || !typed.trim()) return
  const ofPlenum = quantity === 'opening' || quantity === 'volume'
  const element_kind = manifold.value ? (ofPlenum ? 'plenum' : 'runner') : s.kind
  const shared = {
    person_id: personId.value,
    part_state_id: s.state_id,
    element_kind,
    cylinder: element_kind === 'runner' ? 1 : null,
    typed,
    taken_at: now(),
  }
  try {
    if (quantity === 'flow') {
      const bench_id = reading.value.bench || benches.value[0]?.id
      await put(`/api/part-flows/${newId()}`, { ...shared, bench_id, depression })
    } else {
      await put(`/api/dimensions/${newId()}`, { ...shared, job_id: null, quantity, accepted })
    }
    reading.value.typed = ''
    problem.value = undefined
    await load()
  } catch (error) {
    problem.value = said(error)
  }
}
function answer(change: Record<string, unknown>): void {
  if (typeof change['typed'] === 'string') reading.value.typed = change['typed']
  void measure((change['accepted'] as string[] | undefined) ?? [])
}

async function exchange(mine: Schemas['AssemblyPiece'], other: Schemas['ExchangeOffer']): Promise<void> {
  try {
    await post('/api/pieces/exchange', {
      person_id: personId.value,
      one_piece_id: mine.id,
      one_assembly_id: props.partId,
      other_piece_id: other.piece_id,
      other_assembly_id: other.assembly_id,
    })
    await load()
  } catch (error) {
    problem.value = said(error)
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
  { key: 'f', says: 'flow it', run: () => void startFlow() },
  { key: 'k', says: 'keep what was changed', run: () => void keep() },
  {
    key: 'h',
    says: 'what was read of it over the years',
    run: () => void router.push(`/parts/${props.partId}/history`),
  },
])
</script>

<template>
  <div v-if="sheet && form" class="part">
    <section class="sheet">
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
      <div class="columns">
        <div>
          <h2>Advertised and measured</h2>
          <table>
            <thead>
              <tr class="narrow quiet">
                <th />
                <th>measured here</th>
                <th>its maker says</th>
                <th />
              </tr>
            </thead>
            <tbody class="mono">
              <tr v-for="d in sheet.dimensions" :key="d.name">
                <th scope="row" class="sans">{{ d.name }}</th>
                <td>{{ d.measured ? `${d.measured.text} ${d.measured.unit}` : '–' }}</td>
                <td class="quiet">{{ d.advertised ? `${d.advertised.text} ${d.advertised.unit}` : '–' }}</td>
                <td class="doubt">{{ d.difference }}</td>
              </tr>
            </tbody>
          </table>
          <ul v-if="sheet.flows.length" class="flows mono">
            <li v-for="f in sheet.flows" :key="f">{{ f }}</li>
          </ul>
          <form class="measure" @submit.prevent="measure()">
            <ChoiceField v-model="reading.quantity" label="Measure" :options="quantities" small />
            <TextField
              ref="entry"
              v-model="reading.typed"
              :label="reading.quantity === 'flow' ? 'Read' : 'Measured'"
              :placeholder="reading.quantity === 'flow' ? '620' : '70 mm or 2 3/4 in'"
              small
            />
            <TextField
              v-if="reading.quantity === 'flow'"
              v-model="reading.depression"
              label="at inH2O"
              small
            />
            <ChoiceField
              v-if="reading.quantity === 'flow' && benches.length > 1"
              v-model="reading.bench"
              label="on"
              :options="benches"
              shown="name"
              kept="id"
              small
            />
            <Button type="submit" size="small">Keep <KeyCap k="Enter" /></Button>
          </form>
          <ProblemNote v-if="problem" :problem="problem" @choose="answer" />
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
                  exchange with {{ o.words }}
                </button>
              </li>
            </ul>
          </template>
          <h2>Pictures</h2>
          <PhotoStrip :photos="sheet.photos" :part-id="sheet.id" @added="load" />
        </div>
        <form class="stated" @submit.prevent="keep">
          <h2>Said of it</h2>
          <div class="grid">
            <TextField v-model="form.name" label="Name" small />
            <TextField v-model="form.maker" label="Maker" small />
            <TextField v-model="form.number" label="Number" small />
            <TextField v-model="form.material" label="Material" small />
            <TextField v-model="form.price" label="Price" small />
            <TextField v-model="form.lead" label="Wait, days" small />
            <TextField v-model="form.mass" label="Mass, kg" small />
            <TextField v-model="form.boost" label="Boost it takes, kPa" small />
            <TextField v-model="form.heat" label="Heat it takes, °C" small />
          </div>
          <h3>Its maker says</h3>
          <div class="grid">
            <TextField v-model="form.advertisedBore" label="Bore, mm" small />
            <TextField v-model="form.advertisedOut" label="At the outlet, mm" small />
            <TextField v-model="form.advertisedLength" label="Length, mm" small />
            <TextField v-model="form.advertisedVolume" label="Volume, L" small />
            <TextField v-model="form.advertisedFlow" label="Flow, CFM" small />
          </div>
          <h3>What it meets</h3>
          <div class="grid">
            <template v-for="end in ['inlet', 'outlet'] as const" :key="end">
              <TextField v-model="form[end].opening" :label="`${end} opening, mm`" small />
              <TextField v-model="form[end].bolts" label="bolts: 4, 66 × 66" small />
              <TextField v-model="form[end].outside" label="spigot, mm" small />
            </template>
            <TextField v-model="form.swing" label="Blade past face, mm" small />
            <TextField v-model="form.flangeMetal" label="Flange metal, mm" small />
            <TextField v-model="form.height" label="Height, mm" small />
            <TextField v-model="form.front" label="Front length, mm" small />
            <label class="check"><input v-model="form.weldable" type="checkbox" /> can be welded</label>
            <label class="check"><input v-model="form.splits" type="checkbox" /> splits</label>
          </div>
          <div class="grid wide">
            <TextField v-model="form.ports" label="Ports: brake servo, purge, breather" small />
            <TextField v-model="form.homes" label="Homes: pressure sensor 12.7, injector 13.8" small />
            <TextField
              v-model="form.plugs"
              label="Plugs: throttle position / six-way / two tracks, opposed"
              small
            />
            <TextField v-model="form.fouls" label="Fouls: coolant bottle" small />
            <TextField v-model="form.fuels" label="Fuels it stands: petrol, E85" small />
            <TextField
              v-if="sheet.kind === 'tube'"
              v-model="form.bends"
              label="Bends, angle at radius over bore: 45 at 1.5; 30 at 1.5"
              small
            />
            <TextField
              v-if="manifold"
              v-model="form.sections"
              label="Runner sections from the plenum, mm: 120 of 46; 190 of 42 × 38"
              small
            />
            <p class="line">
              <label class="check"><input v-model="form.ribbed" type="checkbox" /> ribbed</label>
              <label class="check"><input v-model="form.cast" type="checkbox" /> as cast</label>
            </p>
            <TextField v-model="form.claims" label="Claims of the seller, a semicolon between" small />
            <TextField v-model="form.note" label="What was learned" small />
          </div>
          <p class="line">
            <Button type="submit" size="small">Keep <KeyCap k="K" /></Button>
            <span v-if="kept" role="status">Kept.</span>
          </p>
        </form>
      </div>
    </section>
    <Margin title="What it is worth" :sentences="sheet.margin" />
  </div>
</template>

<style scoped>
.part {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 280px;
  min-height: 100%;
}
.sheet {
  padding: 10px 24px 24px;
}
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
h3 {
  padding-top: 8px;
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
.flows {
  list-style: none;
  margin: 6px 0;
  padding: 0;
  font-size: 15px;
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
.grid {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 6px 12px;
}
.grid.wide {
  grid-template-columns: minmax(0, 1fr);
  padding-top: 6px;
}
.grid :deep(.p-inputtext) {
  width: 100%;
}
.check {
  display: flex;
  gap: 8px;
  align-items: center;
  font: 500 15px var(--narrow);
}
.line {
  display: flex;
  gap: 14px;
  align-items: center;
  padding-top: 10px;
}
@media (max-width: 1000px) {
  .part,
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
