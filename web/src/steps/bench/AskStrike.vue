<script setup lang="ts">
/** Why a figure is struck out: typed, or one of the usual reasons. */
import InputText from 'primevue/inputtext'
import { ref } from 'vue'
import { vFocus } from '@/ui/focus'

defineProps<{ figure: string; cylinder: number }>()
const emit = defineEmits<{ strike: [reason: string]; leave: [] }>()
const reason = ref('')
const REASONS = ['mis-trigger', 'leak', 'wrong runner', 'set-up moved']
</script>

<template>
  <form class="ask" @submit.prevent="emit('strike', reason)" @keydown.esc="emit('leave')">
    <p>Why strike out {{ figure }} (runner {{ cylinder }})?</p>
    <InputText v-model="reason" v-focus size="small" placeholder="reason" aria-label="Reason" />
    <div class="ways">
      <button v-for="r in REASONS" :key="r" type="button" class="way" @click="emit('strike', r)">
        {{ r }}
      </button>
    </div>
  </form>
</template>
