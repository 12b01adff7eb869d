<script setup lang="ts">
/** Why a screen has nothing to show, and the way on. */
import { RouterLink } from 'vue-router'

defineProps<{ why: string }>()
</script>

<template>
  <p v-if="why" class="not-shown harm" role="alert">
    {{ why }} <RouterLink to="/">To the shop board</RouterLink>
  </p>
</template>

<style scoped>
.not-shown {
  padding: 40px;
}
</style>
