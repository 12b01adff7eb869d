<script setup lang="ts">
/** The columns of a working screen: what is taken, the worktop, the margin; in portrait one below the other. */
const slots = defineSlots<{ take?(): unknown; default(): unknown; margin?(): unknown }>()
</script>

<template>
  <div class="screen" :class="{ taking: slots.take }">
    <section v-if="slots.take" class="take" aria-label="Figure"><slot name="take" /></section>
    <section class="worktop"><slot /></section>
    <slot name="margin" />
  </div>
</template>

<style scoped>
.screen {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 280px;
  min-height: 0;
}
.screen.taking {
  grid-template-columns: 372px minmax(0, 1fr) 280px;
}
.take {
  display: flex;
  flex-direction: column;
  gap: 12px;
  min-height: 0;
  padding: 18px 0 18px 28px;
  overflow-y: auto;
}
.take > :slotted(*) {
  flex: none;
}
.worktop {
  min-width: 0;
  padding: 12px 24px 20px;
  overflow-y: auto;
}
.taking > .worktop {
  padding: 14px 18px 14px 30px;
}
@media (max-width: 1000px) {
  .screen,
  .screen.taking {
    grid-template-columns: minmax(0, 1fr);
  }
  .take {
    padding: 16px 20px 8px;
  }
  .taking > .worktop {
    padding: 8px 20px;
  }
}
</style>
