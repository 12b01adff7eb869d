<script setup lang="ts">
/** Who does a step and when, or with whom it is outside and until when. */
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import ChoiceField from '@/ui/ChoiceField.vue'
import { sent } from '@/ui/figures'
import TextField from '@/ui/TextField.vue'
import { useSession } from './session'

const props = defineProps<{ step: Schemas['TaskView'] }>()
const emit = defineEmits<{
  plan: [
    plan: {
      assigned_to_id: string | null
      planned_on: string | null
      outside: string
      due_back_on: string | null
    },
  ]
}>()
const { shop } = useSession()
const who = ref<string | null>(props.step.assigned_to_id)
const on = ref(props.step.planned_on ?? '')
const out = ref(props.step.outside)
const back = ref(props.step.due_back_on ?? '')
const people = computed(() => [
  { label: 'nobody yet', value: null },
  ...(shop.value?.people ?? []).map((p) => ({ label: p.name, value: p.id })),
])
const plan = () =>
  emit('plan', {
    assigned_to_id: who.value,
    planned_on: sent(on.value),
    outside: out.value,
    due_back_on: sent(back.value),
  })
</script>

<template>
  <form class="plan" @submit.prevent="plan">
    <ChoiceField v-model="who" label="Who" :options="people" small />
    <TextField v-model="on" label="On, 2026-11-30" small place="planned_on" />
    <TextField v-model="out" label="Outside, with" small place="outside" />
    <TextField v-model="back" label="Due back, 2026-12-04" small place="due_back_on" />
    <Button type="submit" size="small" outlined>Plan</Button>
  </form>
</template>

<style scoped>
.plan {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: end;
  padding: 0 4px 12px 80px;
}
.plan > .field {
  width: 170px;
}
</style>
