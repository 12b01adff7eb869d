<script setup lang="ts">
/** A key, as it is written on a button or beside a word. */
defineProps<{ k: string }>()
</script>

<template>
  <kbd>{{ k }}</kbd>
</template>

<style scoped>
kbd {
  display: inline-block;
  min-width: 1.7em;
  padding: 0 6px;
  border: 1px solid color-mix(in srgb, currentColor 45%, transparent);
  border-radius: 3px;
  font: 500 13px/1.5 var(--mono);
  text-align: center;
  white-space: nowrap;
}
</style>
