<script setup lang="ts">
/** What a test compares: a row each, with its name, the state of the part, and what it changes of the set-up. */
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import type { Schemas } from '@/api/client'
import { RADII, THROTTLES } from '@/steps/bench/setup'
import type { SeriesForm } from './series'

const props = defineProps<{ states: Schemas['StateChoice'][] }>()
const series = defineModel<SeriesForm[]>({ required: true })
const KEPT = { value: 'kept', label: 'same' }
const radii = [KEPT, ...RADII]
const throttles = [KEPT, ...THROTTLES]

function change(row: SeriesForm, item: string, value: string): void {
  if (value && value !== KEPT.value) row.changes[item] = value
  else delete row.changes[item]
}
function add(): void {
  const last = props.states.findLast((s) => s.own) ?? props.states.at(-1)
  if (last) series.value.push({ label: '', part_state_id: last.id, changes: {} })
}
</script>

<template>
  <fieldset>
    <legend>Compare (everything else as in the bench set-up)</legend>
    <div class="row heads" :class="{ stateless: states.length < 2 }" aria-hidden="true">
      <span>name</span>
      <span v-if="states.length > 1">state</span>
      <span>mounted ahead</span>
      <span>entry</span>
      <span>throttle</span>
    </div>
    <div v-for="(row, i) in series" :key="i" class="row" :class="{ stateless: states.length < 2 }">
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
        :aria-label="`Mounted, series ${i + 1}`"
        :placeholder="KEPT.label"
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
      <button type="button" class="drop" :aria-label="`Remove ${row.label}`" @click="series.splice(i, 1)">
        ✕
      </button>
    </div>
    <button type="button" class="way" @click="add">Add series</button>
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
  grid-template-columns: 5fr 6fr 5fr 5fr 5fr 20px;
  gap: 6px;
}
.row > * {
  min-width: 0;
}
.stateless {
  grid-template-columns: 6fr 6fr 5fr 5fr 20px;
}
.heads {
  margin-bottom: -4px;
  font: 500 14px var(--narrow);
  color: var(--quiet);
}
.row :deep(.p-select-label),
.row :deep(.p-inputtext) {
  padding-inline: 7px;
}
.row :deep(.p-select-label) {
  padding-right: 0;
}
.row :deep(.p-select-dropdown) {
  width: 22px;
}
.drop {
  padding: 0;
  border: 0;
  background: none;
  cursor: pointer;
  color: var(--quiet);
}
.way {
  justify-self: start;
}
</style>
