<script setup lang="ts">
/** How deep a cut went. */
import { computed } from 'vue'
import { moveAmong, useAnswers } from '@/frame/answers'
import KeyCap from '@/frame/KeyCap.vue'
import { useSession } from '@/frame/session'

const emit = defineEmits<{ cut: [stage: number | null]; leave: [] }>()

const { shop } = useSession()
const stages = computed(() => shop.value?.stages ?? [])
useAnswers((number) => {
  const found = stages.value.some(({ stage }) => stage === number)
  if (found) emit('cut', number)
  return found
})
</script>

<template>
  <div class="ask">
    <p>Mark as ported. Which stage?</p>
    <div class="ways" @keydown="moveAmong">
      <button v-for="s in stages" :key="s.stage" type="button" class="way" @click="emit('cut', s.stage)">
        <KeyCap :k="`Alt ${s.stage}`" /> {{ s.words }}
      </button>
      <button type="button" class="way" @click="emit('cut', null)">no stage</button>
      <button type="button" class="way" @click="emit('leave')"><KeyCap k="Esc" /> Not ported yet</button>
    </div>
  </div>
</template>
