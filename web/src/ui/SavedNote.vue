<script setup lang="ts">
/** That a form was saved; and, while it is as it was saved, the way back to what stood there before. */
defineProps<{ undoable: boolean }>()
const emit = defineEmits<{ undo: [] }>()
</script>

<template>
  <span role="status">
    Saved. <button v-if="undoable" type="button" class="way" @click="emit('undo')">undo</button>
  </span>
</template>
