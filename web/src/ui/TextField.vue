<script setup lang="ts">
/** A labelled text field. What it holds is text; who uses it reads it. */
import InputText from 'primevue/inputtext'
import { onMounted, ref, useId } from 'vue'

defineOptions({ inheritAttrs: false })
const props = defineProps<{
  label: string
  wide?: boolean
  invalid?: boolean
  focus?: boolean
  small?: boolean
}>()
const value = defineModel<string>({ required: true })
const id = useId()
const input = ref<{ $el: HTMLInputElement }>()

function select(): void {
  input.value?.$el.focus()
  input.value?.$el.select()
}
onMounted(() => props.focus && input.value?.$el.focus())
defineExpose({ select })
</script>

<template>
  <div class="field" :class="[{ wide }, $attrs['class']]">
    <label :for="id">{{ label }}</label>
    <InputText
      :id="id"
      ref="input"
      v-model="value"
      v-bind="$attrs"
      :invalid="invalid"
      :size="small ? 'small' : undefined"
    />
  </div>
</template>
