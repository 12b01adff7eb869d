<script setup lang="ts">
/** A log of the engine computer before it is kept: it has no torque, and tells of the intake all the same. */
import Button from 'primevue/button'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import TraceStrip from '@/charts/TraceStrip.vue'
import BuildChoice from './BuildChoice.vue'
import KeyCap from '@/frame/KeyCap.vue'
import { vFocus } from '@/ui/focus'
import { whole } from '@/ui/figures'
import ProblemNote from '@/ui/ProblemNote.vue'
import TextField from '@/ui/TextField.vue'
import type { Pending } from './mapping'

const props = defineProps<{ pending: Pending; designs: Schemas['DesignView'][]; waiting: number }>()
const emit = defineEmits<{ keep: []; drop: []; choose: [patch: Record<string, unknown>] }>()
const p = computed(() => props.pending)
const preview = computed(() => p.value.preview!)
const log = computed(() => preview.value.log!)
const design = computed(() => props.designs.find((d) => d.build_id === p.value.facts.build_id))
const kept = computed(() => preview.value.columns.map((c) => c.channel).filter(Boolean))
const OUTSIDE: Record<string, string> = {
  at_rest: 'as the manifold read with the engine off',
  logged: 'as it was logged',
  '': 'not in the file: without it there is no drop',
}
const several = computed(() => log.value.stretches.length > 1)
const spans = computed(() =>
  log.value.stretches.map((s) => `${s.low.toFixed(0)} to ${s.high.toFixed(0)} rpm`).join(' · '),
)
const rowFrom = (text: string, other: number) => (whole(text) ?? other + 1) - 1
</script>

<template>
  <form class="log" @submit.prevent="emit('keep')" @keydown.esc="emit('drop')">
    <div class="top">
      <h2>{{ p.name }}</h2>
      <span class="quiet narrow">{{ preview.row_count }} rows · {{ preview.written }}</span>
      <span v-if="waiting > 1" class="quiet narrow">{{ waiting - 1 }} more waiting</span>
    </div>
    <p><b>A log without torque:</b> {{ kept.join(' · ') }}.</p>
    <p v-if="several">{{ log.stretches.length }} stretches at full throttle: {{ spans }}.</p>
    <p v-else-if="!log.stretches.length" class="doubt">
      No stretch of rising speed at full throttle was found. Type its first and last row.
    </p>
    <TraceStrip
      v-if="!several && preview.traces[0]"
      :trace="preview.traces[0]"
      :row-count="preview.row_count"
      unit="rpm"
      :first="rowFrom(p.first, 0)"
      :last="rowFrom(p.last, preview.row_count - 1)"
      @update:first="p.first = String($event + 1)"
      @update:last="p.last = String($event + 1)"
    />
    <BuildChoice v-model="p.facts.build_id" :designs="designs" label="Whose log" />
    <div class="fields">
      <TextField v-model="p.facts.pressure" label="Pressure outside, kPa" small placeholder="29.5 inHg" />
      <TextField v-model="p.facts.date" label="Date" small type="date" />
      <TextField v-model="p.facts.time" label="Time" small type="time" />
      <TextField v-model="p.facts.label" label="Name" small />
      <template v-if="!several">
        <TextField v-model="p.first" label="Rows that count, from" small inputmode="numeric" />
        <TextField v-model="p.last" label="to" small inputmode="numeric" />
      </template>
    </div>
    <p class="quiet narrow">Pressure outside: {{ OUTSIDE[log.outside_from] }}.</p>
    <ProblemNote
      v-if="p.problem"
      :problem="p.problem"
      give-up="leave this file out"
      @choose="emit('choose', $event)"
      @give-up="emit('drop')"
    />
    <div class="end">
      <Button type="submit" v-focus>Save as log of {{ design?.name }} <KeyCap k="Enter" /></Button>
      <Button outlined @click="emit('drop')">Leave it out <KeyCap k="Esc" /></Button>
    </div>
  </form>
</template>

<style scoped>
.log {
  display: grid;
  gap: 12px;
  align-content: start;
}
.log p {
  margin: 0;
}
.top {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 16px;
  align-items: baseline;
}
.fields {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 8px 18px;
}
.end {
  display: flex;
  gap: 12px;
}
</style>
