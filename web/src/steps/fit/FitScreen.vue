<script setup lang="ts">
/** Fitting: what is to be done, and the cautions for it. */
import TaskScreen from '@/frame/TaskScreen.vue'
</script>

<template>
  <TaskScreen word="fit" heading="Fitting" />
</template>
