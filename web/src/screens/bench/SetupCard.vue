<script setup lang="ts">
/** The set-up: what decides whether a figure means anything. Read at a glance, changed in place. */
import Button from 'primevue/button'
import { computed, nextTick, ref, watch } from 'vue'
import { patch, Refused, type Schemas } from '@/api/client'
import { figure } from '@/shared/figures'
import KeyCap from '@/shared/KeyCap.vue'
import { useSession } from '@/shared/session'
import type { SetupForm } from './capture'
import TextField from '@/shared/TextField.vue'
import ChoiceField from '@/shared/ChoiceField.vue'

const props = defineProps<{
  setup: Schemas['SetupView'] | null | undefined
  basis: string
  problem: string
}>()
const open = defineModel<boolean>('open', { required: true })
const emit = defineEmits<{ keep: [form: SetupForm]; learned: [] }>()
const { shop, loadShop } = useSession()
const first = ref<InstanceType<typeof TextField>>()
const form = ref(blank())
const refusal = ref('')

const RADII = [
  { value: 'none', label: 'no radius' },
  { value: 'clay', label: 'clay radius' },
  { value: 'printed', label: 'printed radius' },
  { value: 'own', label: 'its own entry' },
]
const THROTTLES = [
  { value: 'off', label: 'off' },
  { value: 'as_sold', label: 'on, as sold' },
  { value: 'ported', label: 'on, ported' },
]

function benchOf(id: string | undefined) {
  return shop.value?.benches.find((b) => b.id === id) ?? shop.value?.benches[0]
}

/** What the bench repeats within, where it was typed anew: it belongs to the bench, not to this set-up. */
async function keepRepeatability(): Promise<boolean> {
  const bench = benchOf(form.value.bench_id)
  const typed = figure(form.value.repeats)
  if (!bench || typed === bench.repeatability_percent) return true
  try {
    await patch(`/api/benches/${bench.id}`, {
      version: bench.version,
      name: bench.name,
      repeatability_percent: typed,
      session_shift_percent: bench.session_shift_percent,
    })
  } catch (error) {
    refusal.value = error instanceof Refused ? error.problem.detail : 'Elvarn does not answer. Try again.'
    return false
  }
  await loadShop()
  emit('learned')
  return true
}

function blank() {
  const s = props.setup
  return {
    bench_id: s?.bench_id ?? shop.value?.benches[0]?.id ?? '',
    depression: s ? `${s.depression} ${s.depression_unit}` : '28 inH2O',
    entry_radius: s?.entry_radius ?? 'none',
    throttle: s?.throttle ?? 'off',
    blocked: s?.blocked ?? '',
    temperature: s?.air_temperature_c?.toString() ?? '',
    pressure: s?.air_pressure_kpa?.toString() ?? '',
    humidity: s?.air_humidity_percent?.toString() ?? '',
    repeats: benchOf(s?.bench_id)?.repeatability_percent?.toString() ?? '',
  }
}

watch(open, async (now) => {
  if (!now) return
  form.value = blank()
  await nextTick()
  first.value?.select()
})

async function keep(): Promise<void> {
  refusal.value = ''
  if (!(await keepRepeatability())) return
  const f = form.value
  emit('keep', {
    bench_id: f.bench_id,
    depression: f.depression,
    depression_unit: props.setup?.depression_unit ?? 'inH2O',
    entry_radius: f.entry_radius,
    throttle: f.throttle,
    blocked: f.blocked,
    air_temperature_c: figure(f.temperature),
    air_pressure_kpa: figure(f.pressure),
    air_humidity_percent: figure(f.humidity),
  })
}

const rows = computed(() => {
  const s = props.setup
  if (!s) return [['Depression', '28 inH2O'] as const, ['Entry', 'no radius'] as const]
  const unit = s.depression_unit
  const stated = props.basis.split(' at ')[1]
  const shown = `${s.depression} ${unit}`
  return [
    ['Depression', shown === stated || shown.startsWith('28.0') ? shown : `${shown}, stated at ${stated}`],
    ['Entry', s.entry_radius_words],
    ['Throttle', s.throttle_words.replace('throttle ', '')],
    ['Blocked', s.blocked || 'nothing said'],
    ['Air', s.air ?? 'not noted'],
    ['Bench', s.bench],
  ] as const
})
</script>

<template>
  <form v-if="open" class="edit" @submit.prevent="keep" @keydown.esc.stop="open = false">
    <TextField label="Depression" wide ref="first" v-model="form.depression" small :invalid="!!problem" />
    <ChoiceField label="Entry" v-model="form.entry_radius" small :options="RADII" />
    <ChoiceField label="Throttle" v-model="form.throttle" small :options="THROTTLES" />
    <TextField
      label="Blocked"
      wide
      v-model="form.blocked"
      small
      placeholder="other runners, injectors, vacuum"
    />
    <div class="air wide">
      <TextField label="Air, °C" v-model="form.temperature" small inputmode="decimal" />
      <TextField label="kPa" v-model="form.pressure" small inputmode="decimal" />
      <TextField label="% humid" v-model="form.humidity" small inputmode="decimal" />
    </div>
    <ChoiceField
      v-if="(shop?.benches.length ?? 0) > 1"
      label="Bench"
      wide
      v-model="form.bench_id"
      small
      :options="shop?.benches ?? []"
      shown="name"
      kept="id"
    />
    <TextField
      v-if="shop?.benches.length"
      v-model="form.repeats"
      label="This bench repeats within, % (empty: 0.5 assumed)"
      wide
      small
      inputmode="decimal"
      :invalid="!!refusal"
    />
    <p v-if="problem || refusal" class="harm wide" role="alert">{{ refusal || problem }}</p>
    <Button type="submit" size="small" class="wide">Use this set-up <KeyCap k="Enter" /></Button>
  </form>
  <dl v-else class="card">
    <div v-for="[name, words] in rows" :key="name">
      <dt>{{ name }}</dt>
      <dd>{{ words }}</dd>
    </div>
  </dl>
</template>

<style scoped>
.card {
  margin: 0;
  display: grid;
}
.card > div {
  display: grid;
  grid-template-columns: 96px 1fr;
  padding: 4px 0;
  border-top: 1px solid var(--hair);
  line-height: 1.3;
}
dt {
  font: 500 15px/1.3 var(--narrow);
  color: var(--quiet);
}
dd {
  margin: 0;
  font-weight: 500;
}
.edit {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 7px 12px;
}
.wide {
  grid-column: 1 / -1;
}
.air {
  display: grid;
  grid-template-columns: 1fr 1fr 1fr;
  gap: 10px;
}
.edit :deep(.p-inputtext),
.edit :deep(.p-select) {
  width: 100%;
}
</style>
