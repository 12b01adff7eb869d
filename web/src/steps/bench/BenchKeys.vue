<script setup lang="ts">
/** What can be done at the bench, each with its key, in the order of the work: read, set up, look, send. */
import { RouterLink } from 'vue-router'
import KeyCap from '@/frame/KeyCap.vue'
import KeyRow from '@/ui/KeyRow.vue'

defineProps<{ jobId: string; side: 'before' | 'after'; active: number; reference: number | null }>()
const emit = defineEmits<{
  side: []
  strike: []
  setup: []
  again: []
  check: []
  bench: []
  gain: []
  rounds: []
  reference: []
  table: []
  print: []
}>()
</script>

<template>
  <KeyRow>
    <div class="groups">
      <div role="group" aria-label="Read">
        <span><KeyCap k="↑ ↓" /> runner</span>
        <button type="button" @click="emit('side')">
          <KeyCap k="A" /> {{ side === 'after' ? 'before' : 'after' }}
        </button>
        <button type="button" @click="emit('strike')"><KeyCap k="X" /> strike out</button>
      </div>
      <div role="group" aria-label="Set up">
        <button type="button" @click="emit('setup')"><KeyCap k="U" /> set-up</button>
        <button type="button" @click="emit('check')"><KeyCap k="C" /> bench checks</button>
      </div>
      <div role="group" aria-label="Look and send">
        <RouterLink :to="`/jobs/${jobId}/tests`"><KeyCap k="T" /> tests</RouterLink>
        <button type="button" @click="emit('print')"><KeyCap k="P" /> print sheet</button>
      </div>
    </div>
    <details class="more">
      <summary>more · <KeyCap k="?" /> all keys</summary>
      <div role="group" aria-label="More">
        <button type="button" @click="emit('rounds')"><KeyCap k="Q" /> rounds</button>
        <button type="button" @click="emit('again')"><KeyCap k="R" /> repeat set-up</button>
        <button type="button" :aria-pressed="!!reference" @click="emit('reference')">
          <KeyCap k="N" /> {{ reference ? 'all runners' : `runner ${active} only` }}
        </button>
        <button type="button" @click="emit('bench')"><KeyCap k="B" /> bench settings</button>
        <button type="button" @click="emit('gain')"><KeyCap k="W" /> target gain</button>
        <button type="button" @click="emit('table')"><KeyCap k="I" /> import table</button>
        <a :href="`/api/jobs/${jobId}/flow.csv`" download>export CSV</a>
      </div>
    </details>
  </KeyRow>
</template>

<style scoped>
[role='group'] {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
}
/* A hair line between two groups; before the first of a row it falls out of the picture. */
.groups {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 37px;
  overflow: hidden;
}
.groups > * {
  margin-left: -19px;
  padding-left: 18px;
  border-left: 1px solid var(--hair);
}
[role='group'] :is(button, a) {
  padding: 0;
  border: 0;
  background: none;
  color: var(--ink);
  cursor: pointer;
  font: inherit;
  text-decoration: none;
}
.more {
  flex-basis: 100%;
  color: var(--quiet);
}
summary {
  cursor: pointer;
}
.more > div {
  padding-top: 6px;
}
</style>
