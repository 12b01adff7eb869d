<script setup lang="ts">
/** A dropped file before it is kept: which column is what, whose build, in which air. */
import Button from 'primevue/button'
import { computed, reactive } from 'vue'
import { vFocus } from '@/ui/focus'
import type { Schemas } from '@/api/client'
import BuildChoice from './BuildChoice.vue'
import KeyCap from '@/frame/KeyCap.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import type { ColumnMap, Pending } from './mapping'
import TraceStrip from '@/charts/TraceStrip.vue'
import ColumnField from './ColumnField.vue'
import TextField from '@/ui/TextField.vue'
import { figure, whole } from '@/ui/figures'
import FactsFields from './FactsFields.vue'

const props = defineProps<{
  pending: Pending
  designs: Schemas['DesignView'][]
  items: Schemas['DeclaredItem'][]
  waiting: number
}>()
const emit = defineEmits<{ keep: []; drop: []; mapped: []; choose: [patch: Record<string, unknown>] }>()
const p = computed(() => props.pending)
const NONE = -1
const columns = computed(() => [
  { label: 'not in the file', value: NONE },
  ...(p.value.preview?.columns ?? []).map((c) => ({
    label: c.heading + (c.unit_written ? `, ${c.unit_written}` : ''),
    value: c.index,
  })),
])
/** Columns that are mapped or may have to be; channels are told in one line. */
const isBeside = (c: Schemas['ColumnGuess']) => !!c.channel && roleOf(c.index) === c.channel
const mapped = computed(() => (p.value.preview?.columns ?? []).filter((c) => !isBeside(c)))
const beside = computed(() => (p.value.preview?.columns ?? []).filter(isBeside).map((c) => c.channel))
const trace = computed(() => p.value.preview?.traces.find((t) => t.column === p.value.mapping.speed_column))
/** A row that was typed, from 0; else the one that stands for it. */
const rowFrom = (text: string, other: number) => {
  const row = (whole(text) ?? other + 1) - 1
  return Math.max(0, Math.min(row, (p.value.preview?.row_count ?? 1) - 1))
}
const TORQUE_UNITS = ['N·m', 'lbf·ft', 'kgf·m']
const POWER_UNITS = ['kW', 'hp', 'PS', 'W']
const SPEED_UNITS = ['rpm', 'km/h', 'mph', 'drum rpm']

function set(change: Partial<ColumnMap>): void {
  Object.assign(p.value.mapping, change)
  p.value.problem = undefined
  emit('mapped')
}
const gearing = computed(() => (p.value.mapping.rpm_at_100 ? String(p.value.mapping.rpm_at_100) : ''))
const setGearing = (text: string) => set({ rpm_at_100: whole(text) })
/** A drum's figures as they are typed: a point at the end is not lost. */
const drumTexts = reactive({
  inertia: props.pending.mapping.drum?.inertia_kg_m2?.toString() ?? '',
  smoothing: props.pending.mapping.drum?.smoothing_s?.toString() ?? '',
})
function setDrum(name: keyof typeof drumTexts, text: string): void {
  drumTexts[name] = text
  const drum = p.value.mapping.drum
  if (!drum) return
  const [inertia, smoothing] = [figure(drumTexts.inertia), figure(drumTexts.smoothing)]
  set({ drum: { ...drum, inertia_kg_m2: inertia, smoothing_s: smoothing ?? drum.smoothing_s } })
}
const roleOf = (index: number): string => {
  const m = p.value.mapping
  if (index === m.drum?.speed_column && m.speed_unit === 'drum rpm') return "drum's speed, rpm"
  if (index === m.speed_column)
    return m.speed_unit === 'rpm' ? 'engine speed, rpm' : `speed, ${m.speed_unit || 'unit?'}`
  if (index === m.torque_column) return `torque, ${m.torque_unit || 'unit?'}`
  if (index === m.power_column) return `power, ${m.power_unit || 'unit?'}`
  if (index === m.drum?.speed_column) return "drum's speed, rpm"
  return p.value.preview?.columns.find((c) => c.index === index)?.channel || 'left out'
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
      v-if="p.problem && !p.preview"
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
          <tr v-for="c in mapped" :key="c.index" :class="{ out: roleOf(c.index) === 'left out' }">
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
      <p v-if="beside.length" class="narrow quiet">Kept with it: {{ beside.join(' · ') }}</p>
      <TraceStrip
        v-if="trace"
        :trace="trace"
        :row-count="p.preview.row_count"
        :unit="p.mapping.speed_unit ?? ''"
        :first="rowFrom(p.first, 0)"
        :last="rowFrom(p.last, p.preview.row_count - 1)"
        @update:first="p.first = String($event + 1)"
        @update:last="p.last = String($event + 1)"
      />
      <p v-for="f in p.preview.findings" :key="f.code" :class="{ doubt: f.doubt }">{{ f.text }}</p>
      <div class="choose">
        <ColumnField
          label="Speed"
          :columns="columns.slice(1)"
          :units="SPEED_UNITS"
          :column="p.mapping.speed_column"
          :unit="p.mapping.speed_unit ?? ''"
          @update:column="set({ speed_column: $event })"
          @update:unit="set({ speed_unit: $event })"
        />
        <ColumnField
          label="Torque"
          :columns="columns"
          :units="TORQUE_UNITS"
          :column="p.mapping.torque_column ?? NONE"
          :unit="p.mapping.torque_unit"
          @update:column="set({ torque_column: $event === NONE ? null : $event })"
          @update:unit="set({ torque_unit: $event })"
        />
        <ColumnField
          label="Power"
          :columns="columns"
          :units="POWER_UNITS"
          :column="p.mapping.power_column ?? NONE"
          :unit="p.mapping.power_unit"
          @update:column="set({ power_column: $event === NONE ? null : $event })"
          @update:unit="set({ power_unit: $event })"
        />
        <template v-if="p.mapping.drum">
          <TextField
            label="Drum's moment of inertia, kg·m²"
            :model-value="drumTexts.inertia"
            small
            inputmode="decimal"
            @update:model-value="setDrum('inertia', $event)"
          />
          <TextField
            label="Smoothed over, s"
            :model-value="drumTexts.smoothing"
            small
            inputmode="decimal"
            @update:model-value="setDrum('smoothing', $event)"
          />
        </template>
        <TextField v-model="p.first" label="Rows that count, from" small inputmode="numeric" />
        <TextField v-model="p.last" label="to" small inputmode="numeric" />
        <TextField
          v-if="p.mapping.speed_unit && p.mapping.speed_unit !== 'rpm'"
          :label="`Engine rpm at 100 ${p.mapping.speed_unit}`"
          :model-value="gearing"
          small
          @update:model-value="setGearing"
        />
      </div>
      <BuildChoice v-model="p.facts.build_id" :designs="designs" label="Whose pull" />
      <FactsFields v-model="p.facts" :designs="designs" :items="items" following />
      <ProblemNote
        v-if="p.problem"
        :problem="p.problem"
        give-up="leave this file out"
        @choose="emit('choose', $event)"
        @give-up="emit('drop')"
      />
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
.end {
  display: flex;
  gap: 12px;
}
</style>
