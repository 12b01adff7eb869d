<script setup lang="ts">
/** What stands against a candidate, each with its remedy, what is not checked, what it
 * does hardly open, and what its seller claims. */
import type { Schemas } from '@/api/client'

type Conflict = Schemas['ConflictView']
const props = defineProps<{ candidate: Schemas['Candidate']; currency: string }>()
const MARKS: Record<string, string> = { hard: '×', soft: '~' }

function remedy(c: Conflict): string {
  const cost = c.minutes ? `: ${c.minutes.toFixed(0)} min, ${c.cost.toFixed(0)} ${props.currency}` : ''
  return `${c.remedy}${cost}${c.buy ? `, ${c.buy}` : ''}.`
}
</script>

<template>
  <ul class="against">
    <li v-for="c in candidate.conflicts" :key="c.code + c.text" :class="c.severity">
      <span class="mark">{{ MARKS[c.severity] ?? 'i' }}</span>
      <span
        >{{ c.text }} <span class="quiet">{{ remedy(c) }}</span></span
      >
    </li>
    <li v-if="candidate.low_opening">
      <span class="mark">i</span>
      <span>{{ candidate.low_opening }}</span>
    </li>
    <li v-if="candidate.unchecked.length" class="soft">
      <span class="mark">?</span>
      <span>Not checked: {{ candidate.unchecked.join(', ') }}.</span>
    </li>
    <li v-for="claim in candidate.claims" :key="claim.words">
      <span class="mark">“</span>
      <span>Claim: {{ claim.words }}{{ claim.needs ? `, with ${claim.needs}` : '' }}.</span>
    </li>
  </ul>
</template>

<style scoped>
.against {
  grid-column: 2 / -1;
  list-style: none;
  margin: 2px 0 0;
  padding: 0;
  font-size: 15px;
}
.against li {
  display: grid;
  grid-template-columns: 18px 1fr;
}
.against .hard {
  color: var(--harm);
}
.against .soft .mark {
  color: var(--doubt);
  font-weight: 600;
}
</style>
