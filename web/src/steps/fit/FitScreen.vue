<script setup lang="ts">
/** Fitting: the swap sheet where a swap was begun, else the way to begin one and the shop's own list. */
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { useJob } from '@/frame/job'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import TaskScreen from '@/frame/TaskScreen.vue'
import NotShown from '@/ui/NotShown.vue'
import Screen from '@/ui/Screen.vue'
import BeginSwap from './swap/BeginSwap.vue'
import SwapScreen from './swap/SwapScreen.vue'
import { useSwap } from './swap/useSwap'

const { id } = useJob()
const router = useRouter()
const use = useSwap()
const { sheet, swap, failure, load } = use
const beginning = ref(false)
async function begun(): Promise<void> {
  beginning.value = false
  await load()
}
useKeys([
  { key: 'b', says: 'bolts of a flange', run: () => void router.push(`/jobs/${id}/fit/bolts`) },
  { key: 'w', says: 'begin a swap', run: () => !swap.value && (beginning.value = true) },
])
</script>

<template>
  <SwapScreen v-if="swap" :use="use" />
  <Screen v-else-if="sheet && beginning">
    <BeginSwap :job-id="id" :builds="sheet.builds" @begun="begun" @leave="beginning = false" />
  </Screen>
  <TaskScreen v-else-if="sheet" word="fit" heading="Fitting">
    <button type="button" class="way" @click="beginning = true">
      <KeyCap k="W" /> begin a swap: the plan from what comes off and what goes on
    </button>
    <router-link :to="`/jobs/${id}/fit/bolts`"
      ><KeyCap k="B" /> bolts of a flange: order, torque, ticked off</router-link
    >
  </TaskScreen>
  <NotShown v-else :why="failure" />
</template>
