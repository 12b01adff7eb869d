<script setup lang="ts">
/** What was just taken away, and the way to bring it back: at the foot of every screen. */
import { useEventListener } from '@vueuse/core'
import { belongsToField } from './keys'
import { useUndo } from './undo'

const { last, failure, undo, forget } = useUndo()
useEventListener('keydown', (event: KeyboardEvent) => {
  const wanted = (event.ctrlKey || event.metaKey) && !event.shiftKey && event.key.toLowerCase() === 'z'
  if (!wanted || !last.value || belongsToField(event)) return
  event.preventDefault()
  void undo()
})
</script>

<template>
  <p v-if="last" class="undo" role="status">
    <span>{{ failure || last.words }}</span>
    <button type="button" class="way" @click="undo"><kbd>Ctrl Z</kbd> Undo</button>
    <button type="button" class="way" aria-label="Leave it so" @click="forget">×</button>
  </p>
</template>

<style scoped>
.undo {
  position: fixed;
  bottom: 12px;
  left: 24px;
  z-index: 5;
  display: flex;
  gap: 14px;
  align-items: center;
  padding: 8px 14px;
  background: var(--sheet);
  border: 1px solid var(--hair);
  border-left: 4px solid var(--dye);
}
kbd {
  font: 500 13px var(--mono);
  color: var(--quiet);
}
</style>
