<script setup lang="ts">
/** Logs of the engine computer: what each says of the intake, by engine speed. */
import { computed } from 'vue'
import type { Schemas } from '@/api/client'

type Log = Schemas['LogView']
const props = defineProps<{ logs: Log[] }>()
const emit = defineEmits<{ strike: [log: Log] }>()
const COLUMNS = [
  { name: 'drop', label: 'drop to the manifold' },
  { name: 'mixture', label: 'mixture, lambda' },
  { name: 'duty', label: 'injector duty' },
  { name: 'air', label: 'air' },
] as const
const known = (log: Log) => COLUMNS.filter((c) => log.rows.some((row) => row[c.name]))
const day = (log: Log) =>
  new Date(log.taken_at).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })
const shown = computed(() => props.logs.map((log) => ({ log, columns: known(log) })))
</script>

<template>
  <section v-for="{ log, columns } in shown" :key="log.id" class="one" :class="{ struck: log.struck }">
    <h3>
      {{ day(log) }} · log of {{ log.build }}
      <span class="quiet narrow"> · {{ log.label }} · {{ log.outside }} · {{ log.person }}</span>
      <button v-if="!log.struck" type="button" class="plain-button narrow" @click="emit('strike', log)">
        strike out
      </button>
      <span v-else class="quiet narrow">struck out: {{ log.struck.reason }}, {{ log.struck.person }}</span>
    </h3>
    <table v-if="!log.struck">
      <tbody>
        <tr class="mono">
          <th class="narrow">rpm</th>
          <td v-for="row in log.rows" :key="row.engine_speed_rpm">{{ row.engine_speed_rpm.toFixed(0) }}</td>
        </tr>
        <tr v-for="c in columns" :key="c.name" class="mono">
          <th class="narrow">{{ c.label }}</th>
          <td v-for="row in log.rows" :key="row.engine_speed_rpm">{{ row[c.name] || '–' }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
h3 {
  margin: 8px 0 2px;
  font: 600 16px var(--narrow);
}
h3 button {
  margin-left: 12px;
  color: var(--quiet);
  text-decoration: underline;
}
.struck h3 {
  color: var(--quiet);
  text-decoration: line-through;
}
.struck h3 span {
  display: inline-block;
  text-decoration: none;
}
table {
  border-collapse: collapse;
}
th {
  padding: 2px 14px 2px 0;
  text-align: left;
  font-weight: 500;
  color: var(--quiet);
}
td {
  padding: 2px 12px 2px 0;
  text-align: right;
  white-space: nowrap;
}
</style>
