<script setup lang="ts">
/** Fitting: what is to be done, and the cautions for it; the bolts of a flange on a screen of their own. */
import { useRouter } from 'vue-router'
import { useJob } from '@/frame/job'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import TaskScreen from '@/frame/TaskScreen.vue'

const { id } = useJob()
const router = useRouter()
useKeys([{ key: 'b', says: 'bolts of a flange', run: () => void router.push(`/jobs/${id}/fit/bolts`) }])
</script>

<template>
  <TaskScreen word="fit" heading="Fitting">
    <router-link :to="`/jobs/${id}/fit/bolts`"
      ><KeyCap k="B" /> bolts of a flange: order, torque, ticked off</router-link
    >
  </TaskScreen>
</template>
