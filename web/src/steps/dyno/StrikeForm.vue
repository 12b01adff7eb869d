<script setup lang="ts">
/** Why a pull or a log is struck out. */
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { ref } from 'vue'
import { api, now, problemIn, told } from '@/api/client'
import { useSession } from '@/frame/session'
import { vFocus } from '@/ui/focus'
import type { Struck } from './pullFacts'

const props = defineProps<{ reading: Struck }>()
const emit = defineEmits<{ struck: []; leave: [] }>()
const { personId } = useSession()
const reason = ref('')
const error = ref('')

async function strike(): Promise<void> {
  if (!reason.value.trim()) return
  try {
    await told(
      api.PUT('/api/strikes/{reading_id}', {
        params: { path: { reading_id: props.reading.id } },
        body: { person_id: personId.value, reason: reason.value, struck_at: now() },
      }),
    )
    emit('struck')
  } catch (caught) {
    error.value = problemIn(caught, 'Try again.').detail
  }
}
</script>

<template>
  <form @submit.prevent="strike" @keydown.esc="emit('leave')">
    <span>{{ reading.build }}, {{ reading.label }}:</span>
    <InputText v-model="reason" size="small" placeholder="reason" aria-label="Reason" v-focus />
    <Button type="submit" size="small">Strike out</Button>
    <p v-if="error" class="harm" role="alert">{{ error }}</p>
  </form>
</template>

<style scoped>
form {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
}
</style>
