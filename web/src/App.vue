<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { flush } from '@/api/outbox'
import KeyList from '@/shared/KeyList.vue'
import { listen, useKeys } from '@/shared/keys'
import { useSession } from '@/shared/session'
import { fetchScreens } from './router'

const router = useRouter()
const session = useSession()
const showKeys = ref(false)

/** After the first screen has drawn and loaded its figures. */
const QUIET_MS = 1500
const PLACES: Record<string, string> = {
  t: 'takein',
  p: 'path',
  b: 'bench',
  o: 'port',
  f: 'fit',
  d: 'dyno',
  h: 'handover',
}

function goTo(letter: string): void {
  const jobId = router.currentRoute.value.params['jobId']
  if (letter === 's') void router.push('/')
  else if (letter === 'l') void router.push('/shelf')
  else if (letter === 'c' && jobId) void router.push(`/jobs/${String(jobId)}/candidates`)
  else if (PLACES[letter] && jobId) void router.push(`/jobs/${String(jobId)}/${PLACES[letter]}`)
}

useKeys([
  { key: '?', says: 'these keys', run: () => (showKeys.value = true) },
  { key: 'm', says: 'day or night', run: () => (session.night.value = !session.night.value) },
  {
    key: 'y',
    says: 'trade or metric units',
    run: () => (session.units.value = session.units.value === 'trade' ? 'metric' : 'trade'),
  },
])

onMounted(() => {
  listen(goTo)
  void session.loadShop()
  void flush()
  setTimeout(fetchScreens, QUIET_MS)
})
</script>

<template>
  <RouterView />
  <KeyList v-model:visible="showKeys" />
</template>
