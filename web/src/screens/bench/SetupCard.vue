<script setup lang="ts">
/** The set-up: what decides whether a figure means anything. Read at a glance, changed in place. */
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { computed, nextTick, ref, watch } from 'vue'
import type { Schemas } from '@/api/client'
import { figure } from '@/shared/figures'
import KeyCap from '@/shared/KeyCap.vue'
import { useSession } from '@/shared/session'
import type { SetupForm } from './capture'

const props = defineProps<{
  setup: Schemas['SetupView'] | null | undefined
  basis: string
  problem: string
}>()
const open = defineModel<boolean>('open', { required: true })
const emit = defineEmits<{ keep: [form: SetupForm] }>()
const { shop } = useSession()
const first = ref<{ $el: HTMLInputElement }>()
const form = ref(blank())

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
  }
}

watch(open, async (now) => {
  if (!now) return
  form.value = blank()
  await nextTick()
  first.value?.$el.focus()
  first.value?.$el.select()
})

function keep(): void {
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
    <div class="field wide">
      <label for="depression">Depression</label>
      <InputText id="depression" ref="first" v-model="form.depression" size="small" :invalid="!!problem" />
    </div>
    <div class="field">
      <label for="radius">Entry</label>
      <Select
        v-model="form.entry_radius"
        input-id="radius"
        aria-label="Entry"
        size="small"
        :options="RADII"
        option-label="label"
        option-value="value"
      />
    </div>
    <div class="field">
      <label for="throttle">Throttle</label>
      <Select
        v-model="form.throttle"
        input-id="throttle"
        aria-label="Throttle"
        size="small"
        :options="THROTTLES"
        option-label="label"
        option-value="value"
      />
    </div>
    <div class="field wide">
      <label for="blocked">Blocked</label>
      <InputText
        id="blocked"
        v-model="form.blocked"
        size="small"
        placeholder="other runners, injectors, vacuum"
      />
    </div>
    <div class="air wide">
      <div class="field">
        <label for="t">Air, °C</label
        ><InputText id="t" v-model="form.temperature" size="small" inputmode="decimal" />
      </div>
      <div class="field">
        <label for="p">kPa</label
        ><InputText id="p" v-model="form.pressure" size="small" inputmode="decimal" />
      </div>
      <div class="field">
        <label for="h">% humid</label
        ><InputText id="h" v-model="form.humidity" size="small" inputmode="decimal" />
      </div>
    </div>
    <div v-if="(shop?.benches.length ?? 0) > 1" class="field wide">
      <label for="bench">Bench</label>
      <Select
        v-model="form.bench_id"
        input-id="bench"
        aria-label="Bench"
        size="small"
        :options="shop?.benches"
        option-label="name"
        option-value="id"
      />
    </div>
    <p v-if="problem" class="harm wide" role="alert">{{ problem }}</p>
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
