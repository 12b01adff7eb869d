<script setup lang="ts">
/** How deep a cut went. */
import { moveAmong, useAnswers } from '@/frame/answers'
import KeyCap from '@/frame/KeyCap.vue'

const emit = defineEmits<{ cut: [stage: number | null]; leave: [] }>()
const STAGES = [
  { stage: 1, words: 'clean-up' },
  { stage: 2, words: 'entries and curves' },
  { stage: 3, words: 'cut open and welded' },
  { stage: 0, words: 'gasket match only' },
]

useAnswers((number) => {
  const found = STAGES.some(({ stage }) => stage === number)
  if (found) emit('cut', number)
  return found
})
</script>

<template>
  <div class="ask">
    <p>Mark as ported. Which stage?</p>
    <div class="ways" @keydown="moveAmong">
      <button v-for="s in STAGES" :key="s.stage" type="button" class="way" @click="emit('cut', s.stage)">
        <KeyCap :k="`Alt ${s.stage}`" /> {{ s.words }}
      </button>
      <button type="button" class="way" @click="emit('cut', null)">no stage</button>
      <button type="button" class="way" @click="emit('leave')"><KeyCap k="Esc" /> Not ported yet</button>
    </div>
  </div>
</template>
