<script setup lang="ts">
/** The set-up: what decides whether a figure means anything. Read at a glance, changed in place. */
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { dayAndTime } from '@/ui/words'

const props = defineProps<{
  setup: Schemas['SetupView'] | null | undefined
  checks: Schemas['CheckView'][]
  /** The depression to which figures are brought. */
  statedAt: string
}>()

const LABELS: Record<string, string> = {
  'entry radius': 'Entry',
  'in front': 'Mounted ahead',
  'valve lift': 'Valve lift',
  'clock position': 'Clock position',
}
const named = (item: string) => LABELS[item] ?? item.charAt(0).toUpperCase() + item.slice(1)
const rows = computed(() => {
  const s = props.setup
  if (!s) return [['Depression', '28 inH2O'] as const, ['Entry', 'no radius'] as const]
  const shown = `${s.depression} ${s.depression_unit}`
  return [
    [
      'Depression',
      shown === props.statedAt || shown.startsWith('28.0') ? shown : `${shown}, shown at ${props.statedAt}`,
    ] as const,
    ...Object.entries(s.words).map(([item, words]) => [named(item), words] as const),
    ['Air', s.air ?? 'not noted'] as const,
    ['Bench', s.bench] as const,
  ]
})
const SHORT: Record<string, string> = {
  zero: 'Zero',
  leak: 'Leak test',
  plate: 'Plate',
  low: 'Low depression',
  held: 'Blade held open',
}
const latest = computed(() => {
  const seen = new Set<string>()
  return props.checks.filter((c) => !c.struck && !seen.has(c.kind) && seen.add(c.kind))
})
</script>

<template>
  <dl class="card">
    <div v-for="[name, words] in rows" :key="name">
      <dt>{{ name }}</dt>
      <dd>{{ words }}</dd>
    </div>
    <div v-for="c in latest" :key="c.id">
      <dt>{{ SHORT[c.kind] }}</dt>
      <dd class="narrow">
        {{ c.words }}, {{ dayAndTime(c.at) }}<template v-if="c.counts">: {{ c.counts }}</template>
      </dd>
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
  padding: 3px 0;
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
</style>
