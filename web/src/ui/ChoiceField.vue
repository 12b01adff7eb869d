<script setup lang="ts" generic="T">
/** A labelled choice of one. */
import Select from 'primevue/select'

defineProps<{
  label: string
  options: readonly object[]
  /** Which of an option's names is shown, and which is kept. */
  shown?: string
  kept?: string
  wide?: boolean
  small?: boolean
}>()
const value = defineModel<T>({ required: true })
</script>

<template>
  <div class="field" :class="{ wide }">
    <span class="label" aria-hidden="true">{{ label }}</span>
    <Select
      v-model="value"
      :aria-label="label"
      :options="[...options]"
      :option-label="shown ?? 'label'"
      :option-value="kept ?? 'value'"
      :size="small ? 'small' : undefined"
    />
  </div>
</template>

<style scoped>
.field,
.field :deep(.p-select) {
  min-width: 0;
}
</style>
