<script setup lang="ts">
/** Every reading of a runner as it was taken, struck ones with their reason; how well their mean is known, and why. */
import type { Schemas } from '@/api/client'
import { dayAndTime } from '@/ui/words'

defineProps<{
  readings: Schemas['ReadingView'][]
  known: Schemas['BudgetView'] | null | undefined
  unit: string
}>()
const parts = defineModel<boolean>('parts', { required: true })
</script>

<template>
  <div class="list narrow">
    <ul class="readings">
      <li v-for="r in readings" :key="r.id" :class="{ struck: r.struck }">
        <span class="mono">{{ r.as_taken }}</span>
        <span v-if="r.samples.length"> average of {{ r.samples.length }} samples,</span> {{ r.person }},
        {{ dayAndTime(r.taken_at) }}
        <span v-if="r.struck" class="doubt">struck out: {{ r.struck.reason }}</span>
        <span v-else-if="r.marks.length" class="doubt">flagged: {{ r.marks.join(', ') }}</span>
        <span v-if="r.note" class="doubt">{{ r.note }}</span>
      </li>
    </ul>
    <div v-if="known" class="known">
      <button type="button" :aria-expanded="parts" @click="parts = !parts">
        {{ parts ? '▾' : '▸' }} <span class="mono">±{{ known.relative.text }}</span> {{ unit }} compared with
        this bench, <span class="mono">±{{ known.absolute.text }}</span> {{ unit }} as a true flow
      </button>
      <table v-if="parts">
        <tbody>
          <tr v-for="p in known.parts" :key="p.name">
            <th>{{ p.name }}</th>
            <td class="mono">{{ p.percent }}</td>
            <td>{{ p.origin }}{{ p.in_ratio ? '' : '; cancels out in before/after' }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </div>
</template>

<style scoped>
.list {
  font-size: 14px;
  color: var(--quiet);
}
.readings {
  margin: 0;
  padding: 0;
  list-style: none;
}
.list .mono {
  color: var(--ink);
}
.struck .mono {
  text-decoration: line-through;
}
.known button {
  padding: 2px 0;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.known table {
  border-collapse: collapse;
}
.known th {
  font-weight: 500;
  text-align: left;
  padding-right: 8px;
  vertical-align: top;
}
.known td {
  padding: 1px 8px 1px 0;
  vertical-align: top;
}
</style>
