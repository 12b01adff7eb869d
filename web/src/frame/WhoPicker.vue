<script setup lang="ts">
/** Who is at the bench: every write carries a person. */
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { computed, ref } from 'vue'
import { vFocus } from '@/ui/focus'
import { problemIn } from '@/api/client'
import { useSession } from './session'

const { shop, personId, addPerson } = useSession()
const SOMEBODY_ELSE = 'somebody else'
const CLOSING_MS = 60
const entry = ref<{ $el: HTMLInputElement }>()
const adding = ref(false)
const name = ref('')
const error = ref('')
const options = computed(() => [
  ...(shop.value?.people ?? []).map((p) => ({ label: p.name, value: p.id })),
  { label: 'somebody else …', value: SOMEBODY_ELSE },
])
const nobody = computed(() => shop.value !== undefined && shop.value.people.length === 0)

function choose(value: string): void {
  if (value !== SOMEBODY_ELSE) {
    personId.value = value
    return
  }
  adding.value = true
  // the closing list takes the focus back once more
  setTimeout(() => entry.value?.$el.focus(), CLOSING_MS)
}

async function add(): Promise<void> {
  if (!name.value.trim()) return
  try {
    await addPerson(name.value.trim())
    adding.value = false
    name.value = ''
    error.value = ''
  } catch (caught) {
    error.value = problemIn(caught, 'Press Enter again.').detail
  }
}
</script>

<template>
  <form v-if="adding || nobody" class="who" @submit.prevent="add">
    <InputText
      ref="entry"
      v-model="name"
      placeholder="Your name"
      aria-label="Your name"
      size="small"
      v-focus
    />
    <Button type="submit" size="small" label="At the bench" />
    <span v-if="error" class="harm" role="alert">{{ error }}</span>
  </form>
  <Select
    v-else-if="shop"
    class="who"
    size="small"
    :model-value="personId"
    :options="options"
    option-label="label"
    option-value="value"
    aria-label="Who is at the bench"
    @update:model-value="choose"
  >
    <template #value="{ value }">{{ options.find((o) => o.value === value)?.label }}</template>
  </Select>
</template>

<style scoped>
.who {
  display: inline-flex;
  gap: 8px;
  align-items: center;
}
</style>
