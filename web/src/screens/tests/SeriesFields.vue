<script setup lang="ts">
/** What a test compares: a row each, with its name, the state of the part, and what it changes of the set-up. */
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import type { Schemas } from '@/api/client'
import { RADII, THROTTLES } from '../bench/setup'
import type { SeriesForm } from './series'

const props = defineProps<{ states: Schemas['StateChoice'][] }>()
const series = defineModel<SeriesForm[]>({ required: true })
const KEPT = { value: 'kept', label: 'as set up' }
const radii = [KEPT, ...RADII]
const throttles = [KEPT, ...THROTTLES]

function change(row: SeriesForm, item: string, value: string): void {
  if (value && value !== KEPT.value) row.changes[item] = value
  else delete row.changes[item]
}
function add(): void {
  const last = props.states.at(-1)
  if (last) series.value.push({ label: '', part_state_id: last.id, changes: {} })
}
</script>

<template>
  <fieldset>
    <legend>Compared</legend>
    <div v-for="(row, i) in series" :key="i" class="row">
      <InputText
        v-model="row.label"
        size="small"
        :aria-label="`Name of series ${i + 1}`"
        placeholder="name"
      />
      <Select
        v-if="states.length > 1"
        v-model="row.part_state_id"
        size="small"
        :aria-label="`State of series ${i + 1}`"
        :options="states"
        option-label="label"
        option-value="id"
      />
      <InputText
        size="small"
        :model-value="row.changes['mounted'] ?? ''"
        :aria-label="`In front, series ${i + 1}`"
        placeholder="in front"
        @update:model-value="change(row, 'mounted', $event ?? '')"
      />
      <Select
        size="small"
        :model-value="row.changes['entry_radius'] ?? KEPT.value"
        :aria-label="`Entry of series ${i + 1}`"
        :options="radii"
        option-label="label"
        option-value="value"
        @update:model-value="change(row, 'entry_radius', $event)"
      />
      <Select
        size="small"
        :model-value="row.changes['throttle'] ?? KEPT.value"
        :aria-label="`Throttle of series ${i + 1}`"
        :options="throttles"
        option-label="label"
        option-value="value"
        @update:model-value="change(row, 'throttle', $event)"
      />
      <button type="button" class="drop" :aria-label="`Leave ${row.label} out`" @click="series.splice(i, 1)">
        ✕
      </button>
    </div>
    <button type="button" class="way" @click="add">+ another</button>
  </fieldset>
</template>

<style scoped>
fieldset {
  margin: 0;
  padding: 0;
  border: 0;
  display: grid;
  gap: 8px;
}
legend {
  font: 500 15px var(--narrow);
  color: var(--quiet);
  padding: 0 0 4px;
}
.row {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr)) 24px;
  gap: 5px 8px;
  padding-bottom: 8px;
  border-bottom: 1px solid var(--hair);
}
.drop {
  grid-column: 4;
  grid-row: 1;
  border: 0;
  background: none;
  cursor: pointer;
  color: var(--quiet);
}
.way {
  justify-self: start;
}
</style>
