<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { whileReachable } from '@/api/client'
import { flush } from '@/api/outbox'
import { listenToAnswers } from '@/frame/answers'
import Boundary from '@/frame/Boundary.vue'
import KeyList from '@/frame/KeyList.vue'
import { listen, useKeys } from '@/frame/keys'
import UndoStrip from '@/frame/UndoStrip.vue'
import { useSession } from '@/frame/session'
import { fetchScreens } from './router'

const router = useRouter()
const session = useSession()
const showKeys = ref(false)

/** After the first screen has drawn and loaded its figures. */
const QUIET_MS = 1500

function goTo(letter: string): void {
  const jobId = router.currentRoute.value.params['jobId']
  const step = session.shop.value?.steps.find((s) => s.letters.includes(letter))
  if (letter === 's') void router.push('/')
  else if (letter === 'l') void router.push('/shelf')
  else if (letter === 'w') void router.push('/orders')
  else if (letter === 'r') void router.push('/reckoner')
  else if (letter === 'c' && jobId) void router.push(`/jobs/${String(jobId)}/candidates`)
  else if (step && jobId) void router.push(`/jobs/${String(jobId)}/${step.word}`)
}

useKeys([
  { key: '?', says: 'keys on this screen', run: () => (showKeys.value = true) },
  { key: 'm', says: 'day/night view', run: () => (session.night.value = !session.night.value) },
  {
    key: 'y',
    says: 'CFM/metric units',
    run: () => (session.units.value = session.units.value === 'trade' ? 'metric' : 'trade'),
  },
])

onMounted(() => {
  listen(goTo)
  listenToAnswers()
  void whileReachable(session.loadShop)
  void flush()
  setTimeout(fetchScreens, QUIET_MS)
})
</script>

<template>
  <Boundary><RouterView /></Boundary>
  <UndoStrip />
  <KeyList v-model:visible="showKeys" />
</template>
