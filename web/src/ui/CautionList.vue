<script setup lang="ts">
/** Cautions where the hand would be hurt; they can't be put away. */
defineProps<{ cautions: readonly string[] }>()
</script>

<template>
  <h3 v-if="cautions.length">Cautions</h3>
  <p v-for="c in cautions" :key="c" class="caution"><b class="harm" aria-hidden="true">!</b> {{ c }}</p>
</template>

<style scoped>
.caution {
  font-size: 14.5px;
  line-height: 1.35;
}
</style>
