<script setup lang="ts">
/** A build named anew, or taken away where nothing rests on it. */
import Button from 'primevue/button'
import { ref } from 'vue'
import type { Schemas } from '@/api/client'
import KeyCap from '@/frame/KeyCap.vue'
import TextField from '@/ui/TextField.vue'

const props = defineProps<{ build: Schemas['BuildView'] }>()
const emit = defineEmits<{ rename: [name: string]; remove: []; leave: [] }>()
const name = ref(props.build.name)
</script>

<template>
  <form
    class="naming"
    aria-label="This build"
    @submit.prevent="emit('rename', name)"
    @keydown.esc.stop="emit('leave')"
  >
    <TextField v-model="name" label="Name of this build" place="name" focus small />
    <Button type="submit" size="small">Rename <KeyCap k="Enter" /></Button>
    <Button v-if="!build.is_stock" size="small" outlined severity="danger" @click="emit('remove')"
      >Take this build away</Button
    >
    <Button size="small" outlined @click="emit('leave')">Leave it <KeyCap k="Esc" /></Button>
  </form>
</template>

<style scoped>
.naming {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: end;
  padding: 6px 0;
}
</style>
