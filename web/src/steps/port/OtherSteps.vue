<script setup lang="ts">
/** What else is to be done at port work: what is sent out, washed, welded, coated. */
import TaskScreen from '@/frame/TaskScreen.vue'
</script>

<template>
  <TaskScreen word="port" heading="Other steps of port work">
    One line a step: welding, leak test, flatness, coating, what is sent out and when it is due back.
  </TaskScreen>
</template>
