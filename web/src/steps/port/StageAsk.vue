<script setup lang="ts">
/** Which stage begins: what is measured from now on belongs to it. */
import { computed } from 'vue'
import { moveAmong, useAnswers } from '@/frame/answers'
import { useSession } from '@/frame/session'
import KeyCap from '@/frame/KeyCap.vue'

const emit = defineEmits<{ stage: [stage: number]; leave: [] }>()

const { shop } = useSession()
const stages = computed(() => shop.value?.stages ?? [])
useAnswers((number) => {
  const found = stages.value.some(({ stage }) => stage === number)
  if (found) emit('stage', number)
  return found
})
</script>

<template>
  <div class="ask" @keydown.esc="emit('leave')">
    <p>Which stage begins? What is measured from now on belongs to it.</p>
    <div class="ways" @keydown="moveAmong">
      <button v-for="s in stages" :key="s.stage" type="button" class="way" @click="emit('stage', s.stage)">
        <KeyCap :k="`Alt ${s.stage}`" /> {{ s.words }}
      </button>
      <button type="button" class="way" @click="emit('leave')"><KeyCap k="Esc" /> Not yet</button>
    </div>
  </div>
</template>
