<script setup lang="ts">
/** What can be done at the bench, each with its key. */
import { RouterLink } from 'vue-router'
import KeyCap from '@/frame/KeyCap.vue'
import { sound, toggleSound } from '@/taking/sound'
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
  reference: []
  table: []
  print: []
}>()
</script>

<template>
  <KeyRow>
    <span><KeyCap k="↑ ↓" /> runner</span>
    <button type="button" @click="emit('side')">
      <KeyCap k="A" /> {{ side === 'after' ? 'before' : 'after' }}
    </button>
    <button type="button" @click="emit('strike')"><KeyCap k="X" /> strike out</button>
    <button type="button" @click="emit('setup')"><KeyCap k="U" /> set-up</button>
    <button type="button" @click="emit('again')"><KeyCap k="R" /> repeat set-up</button>
    <button type="button" :aria-pressed="!!reference" @click="emit('reference')">
      <KeyCap k="N" /> {{ reference ? 'all runners' : `runner ${active} only` }}
    </button>
    <button type="button" @click="emit('check')"><KeyCap k="C" /> bench checks</button>
    <RouterLink :to="`/jobs/${jobId}/tests`"><KeyCap k="T" /> tests</RouterLink>
    <button type="button" @click="emit('bench')"><KeyCap k="B" /> bench settings</button>
    <button type="button" @click="emit('gain')"><KeyCap k="W" /> target gain</button>
    <button type="button" :aria-pressed="sound" @click="toggleSound">
      <KeyCap k="S" /> sound {{ sound ? 'on' : 'off' }}
    </button>
    <button type="button" @click="emit('table')"><KeyCap k="I" /> import table</button>
    <button type="button" @click="emit('print')"><KeyCap k="P" /> print sheet</button>
    <a :href="`/api/jobs/${jobId}/flow.csv`" download>export CSV</a>
  </KeyRow>
</template>
