<script setup lang="ts">
/** What can be done here, each with its key: a row under the worktop. */
</script>

<template>
  <div class="keys narrow"><slot /></div>
</template>

<style scoped>
.keys {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  align-items: center;
  padding-top: 12px;
  font-size: 15px;
}
.keys :slotted(button),
.keys :slotted(a) {
  padding: 0;
  border: 0;
  background: none;
  color: var(--ink);
  cursor: pointer;
  font: inherit;
  text-decoration: none;
}
</style>
