<script setup lang="ts">
/** A refusal or question in place, with its ways on. */
import { onMounted, ref } from 'vue'
import type { Problem } from '@/api/client'
import type { StaleWays } from './stale'
import StaleNote from './StaleNote.vue'
import { moveAmong, useAnswers } from '@/frame/answers'

const props = defineProps<{
  problem: Problem
  giveUp?: string
  /** The ways on of an edit that somebody else was faster with, and words for its fields. */
  stale?: StaleWays
  words?: Record<string, string>
}>()
const emit = defineEmits<{ choose: [patch: Record<string, unknown>]; giveUp: [] }>()
const box = ref<HTMLElement>()
/** On a long form it comes into sight. */
onMounted(() => box.value?.scrollIntoView?.({ block: 'nearest' }))

useAnswers((number) => {
  const offer = props.problem.offers?.[number - 1]
  if (offer) emit('choose', offer.patch)
  return !!offer
})
</script>

<template>
  <StaleNote v-if="problem.code === 'stale' && stale" :problem="problem" :ways="stale" :words="words" />
  <div v-else ref="box" class="problem" :class="{ asks: problem.offers?.length }" role="alert">
    <p>{{ problem.detail }}</p>
    <div class="ways" @keydown="moveAmong">
      <button
        v-for="(o, i) in problem.offers"
        :key="i"
        type="button"
        class="way"
        @click="emit('choose', o.patch)"
      >
        <kbd>Alt {{ i + 1 }}</kbd> {{ o.label }}
      </button>
      <button v-if="giveUp" type="button" class="way" @click="emit('giveUp')">
        <kbd>Esc</kbd> {{ giveUp }}
      </button>
    </div>
  </div>
</template>

<style scoped>
.problem {
  display: grid;
  gap: 6px;
  padding: 8px 12px;
  border-left: 4px solid var(--harm);
  background: var(--harm-wash);
}
.problem.asks {
  border-color: var(--doubt);
  background: var(--doubt-wash);
}
kbd {
  font: 500 13px var(--mono);
  color: var(--quiet);
}
</style>
