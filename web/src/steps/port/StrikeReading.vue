<script setup lang="ts">
/** Which reading is struck out, and why: it stays in the log, and counts no more. */
import Button from 'primevue/button'
import { ref } from 'vue'
import { api, now, problemIn, told } from '@/api/client'
import { useSession } from '@/frame/session'
import KeyCap from '@/frame/KeyCap.vue'
import ChoiceField from '@/ui/ChoiceField.vue'
import TextField from '@/ui/TextField.vue'

const props = defineProps<{ title: string; readings: { label: string; value: string }[] }>()
const emit = defineEmits<{ done: []; leave: [] }>()
const { personId } = useSession()
const reason = ref('')
const error = ref('')
const chosen = ref(props.readings[0]?.value ?? '')

async function strike(): Promise<void> {
  if (!chosen.value || !reason.value.trim()) return
  const body = { person_id: personId.value, reason: reason.value, struck_at: now() }
  try {
    await told(api.PUT('/api/strikes/{reading_id}', { params: { path: { reading_id: chosen.value } }, body }))
    emit('done')
  } catch (caught) {
    error.value = problemIn(caught, 'Try again.').detail
  }
}
</script>

<template>
  <form class="ask" @submit.prevent="strike" @keydown.esc="emit('leave')">
    <p>{{ title }}:</p>
    <ChoiceField v-model="chosen" label="Reading" :options="readings" />
    <TextField v-model="reason" label="Reason" focus />
    <div class="ways">
      <Button type="submit" size="small">Strike out <KeyCap k="Enter" /></Button>
      <Button size="small" outlined @click="emit('leave')">Cancel <KeyCap k="Esc" /></Button>
    </div>
    <p v-if="error" class="harm" role="alert">{{ error }}</p>
  </form>
</template>
