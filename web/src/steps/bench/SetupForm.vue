<script setup lang="ts">
/** Changing the set-up, item by item. What is seldom said stands below the rest. */
import Button from 'primevue/button'
import { onMounted, ref } from 'vue'
import type { Schemas } from '@/api/client'
import ChoiceField from '@/ui/ChoiceField.vue'
import KeyCap from '@/frame/KeyCap.vue'
import { forgetDraft, useDraft } from '@/ui/draft'
import { useSession } from '@/frame/session'
import TextField from '@/ui/TextField.vue'
import {
  BLOCKED,
  bodyOf,
  DIRECTIONS,
  formOf,
  holds,
  RADII,
  SEEN,
  THROTTLES,
  toggled,
  type SetupBody,
} from './setup'
import CheckField from '@/ui/CheckField.vue'

const props = defineProps<{
  setup: Schemas['SetupView'] | null | undefined
  problem: string
  place: string
}>()
const emit = defineEmits<{ keep: [body: SetupBody]; leave: [] }>()
const { shop } = useSession()
const form = ref(formOf(props.setup, shop.value?.benches[0]?.id ?? ''))
const { restored } = useDraft(`setup.${props.place}`, form)
const first = ref<InstanceType<typeof TextField>>()
const more = ref(false)
onMounted(() => first.value?.select())

function leave(): void {
  forgetDraft(`setup.${props.place}`)
  emit('leave')
}

function keep(): void {
  emit('keep', bodyOf(form.value, props.setup?.depression_unit ?? 'inH2O'))
}
</script>

<template>
  <form class="edit" @submit.prevent="keep" @keydown.esc.stop="leave">
    <TextField ref="first" v-model="form.depression" label="Depression" wide small :invalid="!!problem" />
    <ChoiceField v-model="form.entry_radius" label="Entry" small :options="RADII" />
    <TextField v-model="form.entry_radius_mm" label="Radius, mm" small inputmode="decimal" />
    <ChoiceField v-model="form.throttle" label="Throttle" small :options="THROTTLES" />
    <TextField
      v-model="form.opening_percent"
      label="Opening, %"
      small
      inputmode="decimal"
      placeholder="100"
    />
    <ChoiceField
      v-if="form.throttle !== 'off'"
      v-model="form.blade_seen_open"
      label="Blade at wide open"
      wide
      small
      :options="SEEN"
    />
    <TextField
      v-model="form.mounted"
      label="Mounted ahead, in order"
      wide
      small
      placeholder="tube, throttle, adapter"
    />
    <TextField v-model="form.blocked" label="Blocked" wide small placeholder="not noted" />
    <div class="toggles wide narrow">
      <CheckField
        v-for="word in BLOCKED"
        :key="word"
        :label="word"
        :model-value="holds(form.blocked, word)"
        @update:model-value="form.blocked = toggled(form.blocked, word)"
      />
    </div>
    <div class="air wide">
      <TextField v-model="form.temperature" label="Air, °C" small inputmode="decimal" />
      <TextField v-model="form.pressure" label="kPa" small inputmode="decimal" />
      <TextField v-model="form.humidity" label="Humidity, %" small inputmode="decimal" />
    </div>
    <button type="button" class="more wide narrow" :aria-expanded="more" @click="more = !more">
      {{ more ? '▾' : '▸' }} adapter, clamps, flaps, clock position, direction
    </button>
    <template v-if="more">
      <TextField v-model="form.adapter" label="Adapter" small />
      <TextField v-model="form.clamps" label="Clamps" small />
      <TextField v-model="form.flaps" label="Flap position" small />
      <TextField v-model="form.clock_hours" label="Clock position, h" small inputmode="decimal" />
      <ChoiceField v-model="form.direction" label="Direction" small :options="DIRECTIONS" />
      <TextField v-model="form.valve_lift_mm" label="Valve lift, mm" small inputmode="decimal" />
    </template>
    <ChoiceField
      v-if="(shop?.benches.length ?? 0) > 1"
      v-model="form.bench_id"
      label="Bench"
      wide
      small
      :options="shop?.benches ?? []"
      shown="name"
      kept="id"
    />
    <p v-if="restored" class="quiet narrow wide">What you had typed is back; Esc drops it.</p>
    <p v-if="problem" class="harm wide" role="alert">{{ problem }}</p>
    <Button type="submit" size="small" class="wide">Use this set-up <KeyCap k="Enter" /></Button>
  </form>
</template>

<style scoped>
.edit {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
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
.toggles {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
}
.more {
  border: 0;
  padding: 2px 0;
  background: none;
  text-align: left;
  cursor: pointer;
  color: var(--dye);
}
.edit :deep(.p-inputtext),
.edit :deep(.p-select) {
  width: 100%;
}
</style>
