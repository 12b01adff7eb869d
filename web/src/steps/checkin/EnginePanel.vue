<script setup lang="ts">
/** The engine as it is typed, and beside it what follows from it at once. */
import Button from 'primevue/button'
import { useAsyncState, useDebounceFn } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api, problemIn, Refused, told, Unreachable, type Problem, type Schemas } from '@/api/client'
import ChoiceField from '@/ui/ChoiceField.vue'
import { asTyped, sent } from '@/ui/figures'
import { useEdited } from '@/ui/draft'
import { provideRefusal } from '@/ui/refusal'
import KeyCap from '@/frame/KeyCap.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import { useSession } from '@/frame/session'
import SavedNote from '@/ui/SavedNote.vue'
import TextField from '@/ui/TextField.vue'
import CheckField from '@/ui/CheckField.vue'

const props = defineProps<{ jobId: string; sheet: Schemas['EngineSheet'] }>()
const emit = defineEmits<{ kept: [] }>()
const { units } = useSession()
const {
  form: edited,
  version,
  refill,
  settled,
  undoable,
  bringBack,
} = useEdited<ReturnType<typeof read>>(`engine.${props.jobId}`)
refill(read(), props.sheet.version)
const form = computed(() => edited.value ?? read())
const typedFollowing = useAsyncState(
  () =>
    told(
      api.POST('/api/engine/following', {
        params: { query: { units: units.value } },
        body: { cylinder_count: props.sheet.cylinder_count, engine: body() },
      }),
    ),
  props.sheet.following,
  { immediate: false, resetOnExecute: false, throwError: true, onError: () => undefined },
)
const following = typedFollowing.state
const problem = ref<Problem>()
const said = ref(false)
provideRefusal(problem)
const name = ref<InstanceType<typeof TextField>>()
const LAYOUTS = ['single', 'inline', 'vee', 'flat'].map((value) => ({ label: value, value }))
const FUELS = ['petrol', 'E85', 'methanol'].map((value) => ({ label: value, value }))
/** After the last key: what follows is asked for when the hand rests. */
const REST_MS = 120

function read() {
  const e = props.sheet.engine
  const text = (v: number | null | undefined, place: string) => asTyped(props.sheet.typed, place, v)
  return {
    name: e?.name ?? '',
    layout: e?.layout ?? 'inline',
    banks: text(e?.bank_count ?? 1, 'bank_count'),
    bore: text(e?.bore_mm, 'bore_mm'),
    stroke: text(e?.stroke_mm, 'stroke_mm'),
    limit: text(e?.limit_rpm, 'limit_rpm'),
    boost: e?.boosted ? text(e.boost_kpa, 'boost_kpa') : '',
    boosted: e?.boosted ?? false,
    compression: text(e?.compression_ratio, 'compression_ratio'),
    valves: text(e?.inlet_valve_count, 'inlet_valve_count'),
    valve: text(e?.inlet_valve_mm, 'inlet_valve_mm'),
    fuel: e?.fuel ?? 'petrol',
    order: (e?.firing_order ?? []).join('-'),
    opens: text(e?.inlet_opens_deg, 'inlet_opens_deg'),
    closes: text(e?.inlet_closes_deg, 'inlet_closes_deg'),
    exhaustOpens: text(e?.exhaust_opens_deg, 'exhaust_opens_deg'),
    exhaustCloses: text(e?.exhaust_closes_deg, 'exhaust_closes_deg'),
    lift: text(e?.cam_lift_mm, 'cam_lift_mm'),
    injector: text(e?.injector_cc_min, 'injector_cc_min'),
    rated: text(e?.injector_rated_kpa, 'injector_rated_kpa'),
    rail: text(e?.rail_kpa, 'rail_kpa'),
  }
}
watch(
  () => props.sheet,
  () => {
    refill(read(), props.sheet.version)
    following.value = props.sheet.following
  },
)

function body(): Schemas['NewEngine-Input'] {
  const f = form.value
  return {
    name: f.name || 'engine',
    layout: f.layout,
    bank_count: sent(f.banks) ?? 1,
    bore_mm: sent(f.bore),
    stroke_mm: sent(f.stroke),
    limit_rpm: sent(f.limit),
    boosted: f.boosted,
    boost_kpa: f.boosted ? sent(f.boost) : null,
    compression_ratio: sent(f.compression),
    inlet_valve_count: sent(f.valves),
    inlet_valve_mm: sent(f.valve),
    fuel: f.fuel,
    firing_order: f.order.split(/[\s,;-]+/).filter(Boolean),
    inlet_opens_deg: sent(f.opens),
    inlet_closes_deg: sent(f.closes),
    exhaust_opens_deg: sent(f.exhaustOpens),
    exhaust_closes_deg: sent(f.exhaustCloses),
    cam_lift_mm: sent(f.lift),
    injector_cc_min: sent(f.injector),
    injector_rated_kpa: sent(f.rated),
    rail_kpa: sent(f.rail),
  }
}

async function follow(): Promise<void> {
  try {
    await typedFollowing.execute()
    problem.value = undefined
  } catch (error) {
    if (error instanceof Refused) problem.value = error.problem
    else if (!(error instanceof Unreachable)) throw error
  }
}
const followAtRest = useDebounceFn(follow, REST_MS)
function rest(): void {
  said.value = false
  void followAtRest()
}

async function keep(): Promise<void> {
  try {
    await told(
      api.PATCH('/api/jobs/{job_id}/engine', {
        params: { path: { job_id: props.jobId } },
        body: { version: version.value, engine: body() },
      }),
    )
    problem.value = undefined
    said.value = true
    settled()
    emit('kept')
  } catch (error) {
    problem.value = problemIn(error, 'Your entry is still here; press Enter to retry.')
  }
}
defineExpose({ focus: () => name.value?.select() })
</script>

<template>
  <form class="engine" aria-label="Engine" @submit.prevent="keep" @input="rest">
    <h2 class="wide">Engine <KeyCap k="E" /></h2>
    <TextField ref="name" v-model="form.name" label="Name" class="two" small />
    <ChoiceField v-model="form.layout" label="Layout" :options="LAYOUTS" small @update:model-value="rest" />
    <TextField v-model="form.banks" label="Banks" small place="engine.bank_count" />
    <TextField v-model="form.bore" label="Bore, mm" small place="engine.bore_mm" />
    <TextField v-model="form.stroke" label="Stroke, mm" small place="engine.stroke_mm" />
    <TextField v-model="form.limit" label="Rev limit, rpm" small place="engine.limit_rpm" />
    <TextField v-model="form.compression" label="Compression ratio" small place="engine.compression_ratio" />
    <TextField v-model="form.order" label="Firing order" class="two" small place="engine.firing_order" />
    <TextField v-model="form.valves" label="Intake valves" small place="engine.inlet_valve_count" />
    <TextField v-model="form.valve" label="Valve size, mm" small place="engine.inlet_valve_mm" />
    <TextField v-model="form.opens" label="In opens, °BTDC" small place="engine.inlet_opens_deg" />
    <TextField v-model="form.closes" label="In closes, °ABDC" small place="engine.inlet_closes_deg" />
    <TextField v-model="form.exhaustOpens" label="Ex opens, °BBDC" small place="engine.exhaust_opens_deg" />
    <TextField
      v-model="form.exhaustCloses"
      label="Ex closes, °ATDC"
      small
      place="engine.exhaust_closes_deg"
    />
    <TextField v-model="form.lift" label="Timed at lift, mm" small place="engine.cam_lift_mm" />
    <TextField v-model="form.injector" label="Injector, cc/min" small place="engine.injector_cc_min" />
    <TextField v-model="form.rated" label="Rated at, kPa" small place="engine.injector_rated_kpa" />
    <TextField v-model="form.rail" label="Rail pressure, kPa" small place="engine.rail_kpa" />
    <ChoiceField v-model="form.fuel" label="Fuel" :options="FUELS" small @update:model-value="rest" />
    <CheckField v-model="form.boosted" label="Boosted" />
    <TextField v-if="form.boosted" v-model="form.boost" label="Boost, kPa" small place="engine.boost_kpa" />
    <ProblemNote v-if="problem" class="wide" :problem="problem" />
    <dl class="wide" aria-label="Calculated">
      <div v-for="f in following" :key="f.name" :class="{ doubt: f.doubt }">
        <dt>{{ f.name }}</dt>
        <dd>
          <span class="mono">{{ f.text }}</span> <span class="narrow quiet">{{ f.note }}</span>
        </dd>
      </div>
    </dl>
    <Button type="submit" size="small" class="two keep">Save <KeyCap k="Enter" /></Button>
    <SavedNote v-if="said" :undoable="undoable" @undo="(bringBack(), keep())" />
  </form>
</template>

<style scoped>
.engine {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 8px 12px;
  align-content: start;
  padding-bottom: 10px;
  border-bottom: 1px solid var(--hair);
}
.engine :deep(.p-inputtext),
.engine :deep(.p-select) {
  width: 100%;
}
.engine :deep(label) {
  white-space: nowrap;
}
.wide {
  grid-column: 1 / -1;
}
.two {
  grid-column: span 2;
}
.keep {
  justify-self: start;
}
dl {
  margin: 0;
}
dl > div {
  display: grid;
  grid-template-columns: 152px 1fr;
  align-items: baseline;
}
dt {
  font: 500 15px/1.5 var(--narrow);
  color: var(--quiet);
}
dd {
  margin: 0;
}
.doubt dt,
.doubt dd {
  color: var(--doubt);
}
.check {
  display: flex;
  gap: 8px;
  align-items: end;
  padding-bottom: 6px;
  font: 500 15px var(--narrow);
}
</style>
