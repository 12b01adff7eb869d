<script setup lang="ts">
/** A dropped file before it is kept: which column is what, whose build, in which air. */
import Button from 'primevue/button'
import Select from 'primevue/select'
import { computed } from 'vue'
import { vFocus } from '@/ui/focus'
import type { Schemas } from '@/api/client'
import { useAnswers } from '@/frame/answers'
import KeyCap from '@/frame/KeyCap.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import type { ColumnMap, Pending } from './mapping'
import ChoiceField from '@/ui/ChoiceField.vue'
import TextField from '@/ui/TextField.vue'
import { whole } from '@/ui/figures'
import FactsFields from './FactsFields.vue'

const props = defineProps<{
  pending: Pending
  designs: Schemas['DesignView'][]
  items: Schemas['DeclaredItem'][]
  waiting: number
}>()
const emit = defineEmits<{ keep: []; drop: []; mapped: []; choose: [patch: Record<string, unknown>] }>()
const p = computed(() => props.pending)
useAnswers((number) => {
  const design = props.designs[number - 1]
  if (design) p.value.facts.build_id = design.build_id
  return !!design
})
const NONE = -1
const columns = computed(() => [
  { label: 'not in the file', value: NONE },
  ...(p.value.preview?.columns ?? []).map((c) => ({
    label: c.heading + (c.unit_written ? `, ${c.unit_written}` : ''),
    value: c.index,
  })),
])
const TORQUE_UNITS = ['N·m', 'lbf·ft', 'kgf·m']
const POWER_UNITS = ['kW', 'hp', 'PS', 'W']
const SPEED_UNITS = ['rpm', 'km/h', 'mph']

function set(change: Partial<ColumnMap>): void {
  Object.assign(p.value.mapping, change)
  p.value.problem = undefined
  emit('mapped')
}
const gearing = computed(() => (p.value.mapping.rpm_at_100 ? String(p.value.mapping.rpm_at_100) : ''))
const setGearing = (text: string) => set({ rpm_at_100: whole(text) })
const roleOf = (index: number): string => {
  const m = p.value.mapping
  if (index === m.speed_column)
    return m.speed_unit === 'rpm' ? 'engine speed, rpm' : `road speed, ${m.speed_unit}`
  if (index === m.torque_column) return `torque, ${m.torque_unit}`
  if (index === m.power_column) return `power, ${m.power_unit}`
  return 'left out'
}
</script>

<template>
  <form class="mapping" @submit.prevent="emit('keep')" @keydown.esc="emit('drop')">
    <div class="top">
      <h2>{{ p.name }}</h2>
      <span v-if="p.preview" class="quiet narrow">
        {{ p.preview.row_count }} rows · {{ p.preview.written
        }}<template v-if="p.preview.remembered"> · mapped as last time</template>
      </span>
      <span v-if="waiting > 1" class="quiet narrow">{{ waiting - 1 }} more waiting</span>
    </div>
    <ProblemNote
      v-if="p.problem"
      :problem="p.problem"
      give-up="leave this file out"
      @choose="emit('choose', $event)"
      @give-up="emit('drop')"
    />
    <template v-if="p.preview">
      <table>
        <thead>
          <tr class="narrow">
            <th>in the file</th>
            <th>taken as</th>
            <th colspan="3">first, middle, last</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="c in p.preview.columns" :key="c.index" :class="{ out: roleOf(c.index) === 'left out' }">
            <td>
              {{ c.heading }} <span class="quiet">{{ c.unit_written }}</span>
            </td>
            <td>
              <b>{{ roleOf(c.index) }}</b>
            </td>
            <td v-for="(v, i) in c.sample" :key="i" class="mono">{{ v }}</td>
          </tr>
        </tbody>
      </table>
      <p v-for="f in p.preview.findings" :key="f.code" :class="{ doubt: f.doubt }">{{ f.text }}</p>
      <div class="choose">
        <ChoiceField
          label="Engine speed"
          small
          :model-value="p.mapping.speed_column"
          :options="columns.slice(1)"
          @update:model-value="set({ speed_column: $event })"
        />
        <div class="field">
          <span class="label" aria-hidden="true">Speed in</span>
          <div class="pair">
            <TextField
              v-if="p.mapping.speed_unit !== 'rpm'"
              :label="`Engine rpm at 100 ${p.mapping.speed_unit}`"
              :model-value="gearing"
              small
              @update:model-value="setGearing"
            />
            <span v-else />
            <Select
              size="small"
              aria-label="Unit of speed"
              :model-value="p.mapping.speed_unit"
              :options="SPEED_UNITS"
              @update:model-value="set({ speed_unit: $event })"
            />
          </div>
        </div>
        <div class="field">
          <span class="label" aria-hidden="true">Rows that count</span>
          <div class="rows">
            <TextField v-model="p.first" label="from" small inputmode="numeric" />
            <TextField v-model="p.last" label="to" small inputmode="numeric" />
          </div>
        </div>
        <div class="field">
          <span class="label" aria-hidden="true">Torque</span>
          <div class="pair">
            <Select
              input-id="torque"
              aria-label="Torque"
              size="small"
              :model-value="p.mapping.torque_column ?? NONE"
              :options="columns"
              option-label="label"
              option-value="value"
              @update:model-value="set({ torque_column: $event === NONE ? null : $event })"
            />
            <Select
              size="small"
              aria-label="Unit of torque"
              placeholder="unit?"
              :model-value="p.mapping.torque_unit"
              :options="TORQUE_UNITS"
              @update:model-value="set({ torque_unit: $event })"
            />
          </div>
        </div>
        <div class="field">
          <span class="label" aria-hidden="true">Power</span>
          <div class="pair">
            <Select
              input-id="power"
              aria-label="Power"
              size="small"
              :model-value="p.mapping.power_column ?? NONE"
              :options="columns"
              option-label="label"
              option-value="value"
              @update:model-value="set({ power_column: $event === NONE ? null : $event })"
            />
            <Select
              size="small"
              aria-label="Unit of power"
              placeholder="unit?"
              :model-value="p.mapping.power_unit"
              :options="POWER_UNITS"
              @update:model-value="set({ power_unit: $event })"
            />
          </div>
        </div>
      </div>
      <div class="whose" role="group" aria-label="Whose pull">
        <button
          v-for="(d, i) in designs"
          :key="d.build_id"
          type="button"
          class="way"
          :aria-pressed="d.build_id === p.facts.build_id"
          @click="p.facts.build_id = d.build_id"
        >
          <KeyCap :k="`Alt ${i + 1}`" /> {{ d.name }}
        </button>
      </div>
      <FactsFields v-model="p.facts" :designs="designs" :items="items" />
      <div class="end">
        <Button type="submit" v-focus
          >Save as pull of {{ designs.find((d) => d.build_id === p.facts.build_id)?.name }} <KeyCap k="Enter"
        /></Button>
        <Button outlined @click="emit('drop')">Leave it out <KeyCap k="Esc" /></Button>
      </div>
    </template>
  </form>
</template>

<style scoped>
.mapping {
  display: grid;
  gap: 14px;
  align-content: start;
}
.top {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 16px;
  align-items: baseline;
}
table {
  border-collapse: collapse;
  width: 100%;
}
th {
  text-align: left;
  font-weight: 500;
  color: var(--quiet);
}
td {
  padding: 5px 14px 5px 0;
  border-top: 1px solid var(--hair);
}
.out {
  color: var(--quiet);
}
.choose {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 12px 20px;
}
.whose {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.whose [aria-pressed='true'] {
  border-color: var(--dye);
  background: var(--dye-wash);
  font-weight: 600;
}
.rows {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px;
}
.pair {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 96px;
  gap: 6px;
}
.end {
  display: flex;
  gap: 12px;
}
</style>
