<script setup lang="ts">
/** How often each runner is to be read, and in which order: a plan that asks nothing more. */
import { computed, onMounted, ref } from 'vue'
import { moveAmong, useAnswers } from '@/frame/answers'
import KeyCap from '@/frame/KeyCap.vue'
import TextField from '@/ui/TextField.vue'
import { whole } from '@/ui/figures'
import { MOST_ROUNDS, type Rounds } from './rounds'

defineProps<{ planned: boolean }>()
const emit = defineEmits<{
  begin: [times: number, order: Rounds['order'], refitted: boolean]
  end: []
  leave: []
}>()
const typed = ref('3')
const field = ref<InstanceType<typeof TextField>>()
onMounted(() => field.value?.select())
const times = computed(() => whole(typed.value))
const fits = computed(() => times.value !== null && times.value >= 1 && times.value <= MOST_ROUNDS)
const WAYS: { says: string; order: Rounds['order']; refitted: boolean }[] = [
  { says: 'round by round, each refitted', order: 'rounds', refitted: true },
  { says: 'runner by runner, refitted', order: 'runner', refitted: true },
  { says: 'runner by runner, not touched', order: 'runner', refitted: false },
]

function choose(number: number): boolean {
  const way = WAYS[number - 1]
  if (!way || !fits.value) return false
  emit('begin', times.value ?? 1, way.order, way.refitted)
  return true
}
useAnswers(choose)
</script>

<template>
  <form class="ask" @submit.prevent="choose(1)" @keydown.esc="emit('leave')">
    <TextField ref="field" v-model="typed" label="Readings of each runner" small :invalid="!fits" />
    <p v-if="!fits" class="harm" role="alert">
      '{{ typed }}': type a whole number from 1 to {{ MOST_ROUNDS }}.
    </p>
    <div class="ways" @keydown="moveAmong">
      <button
        v-for="(w, i) in WAYS"
        :key="i"
        type="button"
        class="way"
        :disabled="!fits"
        @click="choose(i + 1)"
      >
        <KeyCap :k="`Alt ${i + 1}`" /> {{ w.says }}
      </button>
      <button v-if="planned" type="button" class="way" @click="emit('end')">End the rounds</button>
      <button type="button" class="way" @click="emit('leave')"><KeyCap k="Esc" /> leave it</button>
    </div>
  </form>
</template>
