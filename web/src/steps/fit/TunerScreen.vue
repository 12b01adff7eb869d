<script setup lang="ts">
/** What the tuner must know, on a page of its own: what the engine computer can't know by itself. */
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { useJob } from '@/frame/job'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import GradeMark from '@/ui/GradeMark.vue'
import KeyRow from '@/ui/KeyRow.vue'
import Margin from '@/ui/Margin.vue'
import NotShown from '@/ui/NotShown.vue'
import Screen from '@/ui/Screen.vue'
import { useSwap } from './swap/useSwap'

const { id, job } = useJob()
const router = useRouter()
const { swap, failure, sheet } = useSwap()
const gone = computed(
  () => swap.value?.strands.filter((s) => ['blank off', 'delete', 'loop'].includes(s.verb)) ?? [],
)
const print = () => window.print()
useKeys([
  { key: 'p', says: 'print', run: print },
  { key: 'Escape', says: 'back to the swap sheet', run: () => void router.push(`/jobs/${id}/fit`) },
])
</script>

<template>
  <Screen v-if="sheet">
    <article class="page">
      <h2>For the tuner</h2>
      <p v-if="swap" class="quiet">{{ job?.title }}: {{ swap.off }} → {{ swap.on }}</p>
      <p v-else>No swap was begun, so nothing is known to have changed.</p>
      <ul v-if="swap">
        <li v-for="s in swap.tuner" :key="s.pieces?.map((p) => p.text).join('')" :class="s.tone">
          <GradeMark :grade="s.grade" />{{ s.pieces?.map((p) => p.text).join('') }}
        </li>
      </ul>
      <template v-if="gone.length">
        <h3>No longer there</h3>
        <p>{{ gone.map((s) => `${s.off || s.goes_on} (${s.verb})`).join(', ') }}.</p>
      </template>
      <KeyRow>
        <button type="button" @click="print"><KeyCap k="P" /> print</button>
        <router-link :to="`/jobs/${id}/fit`"><KeyCap k="Esc" /> swap sheet</router-link>
      </KeyRow>
    </article>
    <template #margin><Margin title="Before it runs" :sentences="swap?.margin ?? []" /></template>
  </Screen>
  <NotShown v-else :why="failure" />
</template>

<style scoped>
.page {
  display: grid;
  gap: 14px;
  max-width: 720px;
}
h2 {
  font: 600 30px/1.1 var(--sans);
}
ul {
  display: grid;
  gap: 10px;
  margin: 0;
  padding: 0;
  list-style: none;
  font-size: 18px;
}
li {
  display: grid;
  grid-template-columns: 20px 1fr;
}
li.doubt {
  color: var(--doubt);
}
li.harm {
  color: var(--harm);
}
.grade {
  margin-top: 8px;
}
</style>
