<script setup lang="ts">
/** Which column holds a quantity, and in which unit. */
import Select from 'primevue/select'

defineProps<{
  label: string
  columns: { label: string; value: number }[]
  units: string[]
}>()
const column = defineModel<number>('column', { required: true })
const unit = defineModel<string>('unit', { required: true })
</script>

<template>
  <div class="field">
    <span class="label" aria-hidden="true">{{ label }}</span>
    <div class="pair">
      <Select
        v-model="column"
        size="small"
        :aria-label="label"
        :options="columns"
        option-label="label"
        option-value="value"
      />
      <Select
        v-model="unit"
        size="small"
        placeholder="unit?"
        :aria-label="`Unit of ${label.toLowerCase()}`"
        :options="units"
      />
    </div>
  </div>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 96px;
  gap: 6px;
}
</style>
