<script setup lang="ts">
/** A labelled box to tick. */
import Checkbox from 'primevue/checkbox'
import { useId } from 'vue'

defineProps<{ label: string }>()
const ticked = defineModel<boolean | null>({ required: true })
const id = useId()
</script>

<template>
  <span class="check">
    <Checkbox
      :input-id="id"
      :model-value="!!ticked"
      binary
      size="small"
      @update:model-value="ticked = $event"
    />
    <label :for="id">{{ label }}</label>
  </span>
</template>

<style scoped>
.check {
  display: inline-flex;
  gap: 8px;
  align-items: center;
  font: 500 15px var(--narrow);
}
</style>
