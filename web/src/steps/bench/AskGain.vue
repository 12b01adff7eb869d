<script setup lang="ts">
/** The gain that this bench is to show: how many set-ups it takes follows from it, in the margin. */
import Button from 'primevue/button'
import { computed, onMounted, ref } from 'vue'
import { figure } from '@/ui/figures'
import KeyCap from '@/frame/KeyCap.vue'
import { useSession } from '@/frame/session'
import TextField from '@/ui/TextField.vue'

const emit = defineEmits<{ leave: [] }>()
const { wantedGain } = useSession()
const typed = ref(String(wantedGain.value))
const field = ref<InstanceType<typeof TextField>>()
onMounted(() => field.value?.select())
const percent = computed(() => figure(typed.value.replace(/\s*%$/, '')))
const fits = computed(() => percent.value !== null && percent.value > 0 && percent.value <= 100)

function keep(): void {
  if (!fits.value) return
  wantedGain.value = percent.value ?? 1
  emit('leave')
}
</script>

<template>
  <form class="ask" @submit.prevent="keep" @keydown.esc="emit('leave')">
    <TextField ref="field" v-model="typed" label="Target gain, %" small :invalid="!fits" />
    <p v-if="!fits" class="harm" role="alert">'{{ typed }}' is no gain. Type a figure above 0, to 100.</p>
    <div class="ways">
      <Button type="submit" size="small" :disabled="!fits">Show refits needed <KeyCap k="Enter" /></Button>
      <button type="button" class="way" @click="emit('leave')"><KeyCap k="Esc" /> leave it</button>
    </div>
  </form>
</template>
