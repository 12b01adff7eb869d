<script setup lang="ts">
/** Somebody else changed what is being edited: both versions where they differ, and which is to stay. */
import { computed } from 'vue'
import type { Problem } from '@/api/client'
import { moveAmong, useAnswers } from '@/frame/answers'
import { differences, plainName, type StaleWays } from './stale'

const props = defineProps<{ problem: Problem; ways: StaleWays; words?: Record<string, string> }>()
const rows = computed(() => differences(props.problem))
useAnswers((number) => {
  const way = [props.ways.mine, props.ways.theirs][number - 1]
  way?.()
  return !!way
})
</script>

<template>
  <div class="stale" role="alert">
    <p>{{ problem.detail }}</p>
    <table v-if="rows.length">
      <thead>
        <tr>
          <th></th>
          <th>theirs</th>
          <th>yours</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in rows" :key="r.name">
          <td class="quiet">{{ words?.[r.name] ?? plainName(r.name) }}</td>
          <td>{{ r.theirs }}</td>
          <td>{{ r.yours }}</td>
        </tr>
      </tbody>
    </table>
    <p v-else>What is said is the same in both.</p>
    <div class="ways" @keydown="moveAmong">
      <button type="button" class="way" @click="ways.mine"><kbd>Alt 1</kbd> Keep mine</button>
      <button type="button" class="way" @click="ways.theirs"><kbd>Alt 2</kbd> Use theirs</button>
    </div>
  </div>
</template>

<style scoped>
.stale {
  display: grid;
  gap: 8px;
  padding: 10px 14px;
  border-left: 4px solid var(--doubt);
  background: var(--doubt-wash);
}
th,
td {
  padding: 2px 18px 2px 0;
  text-align: left;
  font-weight: 500;
}
kbd {
  font: 500 13px var(--mono);
  color: var(--quiet);
}
</style>
