<script setup lang="ts">
/** A labelled text field. What it holds is text; who uses it reads it. `place` is its place in what is sent: where that is
 * refused, the field is marked and takes the cursor. */
import InputText from 'primevue/inputtext'
import { onMounted, ref, useId, watch } from 'vue'
import { useRefused } from './refusal'

defineOptions({ inheritAttrs: false })
const props = defineProps<{
  label: string
  wide?: boolean
  invalid?: boolean
  focus?: boolean
  small?: boolean
  place?: string
}>()
const value = defineModel<string>({ required: true })
const id = useId()
const input = ref<{ $el: HTMLInputElement }>()

function select(): void {
  input.value?.$el.focus()
  input.value?.$el.select()
}
const { refused, brought } = useRefused(() => props.place)
watch(brought, (now) => now && select())
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
      :invalid="invalid || refused"
      :size="small ? 'small' : undefined"
    />
  </div>
</template>
