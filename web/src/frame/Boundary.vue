<script setup lang="ts">
/** A screen that fails is told in its place; the rest of the page goes on, and what was typed to be sent still is. */
import { onErrorCaptured, ref, watch } from 'vue'
import { useRoute } from 'vue-router'

const failure = ref<Error>()
const route = useRoute()

onErrorCaptured((error) => {
  failure.value = error
  console.error(error)
  return false
})
watch(
  () => route.fullPath,
  () => (failure.value = undefined),
)
</script>

<template>
  <div v-if="failure" class="failed" role="alert">
    <p class="harm">
      This screen failed: {{ failure.message }}. Figures that were kept are safe; what waits is sent.
    </p>
    <button type="button" class="way" @click="failure = undefined">Show it again</button>
    <RouterLink to="/" class="way">To the shop board</RouterLink>
  </div>
  <slot v-else />
</template>

<style scoped>
.failed {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-content: start;
  align-items: baseline;
  padding: 40px;
}
.failed p {
  flex-basis: 100%;
}
.way {
  color: inherit;
  text-decoration: none;
}
</style>
