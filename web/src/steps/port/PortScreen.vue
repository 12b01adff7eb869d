<script setup lang="ts">
/** Port work: what is to be done, the part's state, and the cautions for it. */
import { computed } from 'vue'
import { useJob } from '@/frame/job'
import KeyCap from '@/frame/KeyCap.vue'
import TaskScreen from '@/frame/TaskScreen.vue'

const { job } = useJob()
const state = computed(() => job.value?.parts.find((p) => p.kind === 'manifold')?.states.at(-1))
</script>

<template>
  <TaskScreen word="port" heading="Port work" :stands="state ? `state: ${state.label}` : ''">
    Ported? Go to Bench (<KeyCap k="g" /> <KeyCap k="b" />), press <KeyCap k="A" /> and pick the stage. After
    readings belong to the new state.
  </TaskScreen>
</template>
