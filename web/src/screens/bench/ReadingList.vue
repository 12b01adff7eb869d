<script setup lang="ts">
/** Every reading of a runner as it was taken; struck ones stay, with their reason. */
import type { Schemas } from '@/api/client'
import { dayAndTime } from '@/shared/words'

defineProps<{ readings: Schemas['ReadingView'][] }>()
</script>

<template>
  <ul class="readings narrow">
    <li v-for="r in readings" :key="r.id" :class="{ struck: r.struck }">
      <span class="mono">{{ r.as_taken }}</span> {{ r.person }}, {{ dayAndTime(r.taken_at) }}
      <span v-if="r.struck" class="doubt">struck out: {{ r.struck.reason }}</span>
      <span v-else-if="r.marks.length" class="doubt">kept though {{ r.marks.join(', ') }}</span>
    </li>
  </ul>
</template>

<style scoped>
.readings {
  margin: 0;
  padding: 0;
  list-style: none;
  font-size: 14px;
  color: var(--quiet);
}
.readings .mono {
  color: var(--ink);
}
.struck .mono {
  text-decoration: line-through;
}
</style>
