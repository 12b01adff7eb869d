<script setup lang="ts">
/** Steps of fitting that belong to no swap. */
import { useRouter } from 'vue-router'
import { useJob } from '@/frame/job'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import TaskScreen from '@/frame/TaskScreen.vue'

const { id } = useJob()
const router = useRouter()
useKeys([{ key: 'Escape', says: 'back to the swap sheet', run: () => void router.push(`/jobs/${id}/fit`) }])
</script>

<template>
  <TaskScreen word="fit" heading="Other steps of fitting">
    <router-link :to="`/jobs/${id}/fit`"><KeyCap k="Esc" /> swap sheet</router-link>
  </TaskScreen>
</template>
