<script setup lang="ts">
/** The figure being taken, large enough for two metres: typed, or forming from what the bench sends. */
import { computed, ref } from 'vue'

const props = defineProps<{ label: string; unit: string; placeholder: string; forming: boolean }>()
const typed = defineModel<string>({ required: true })
const emit = defineEmits<{ take: []; key: [event: KeyboardEvent]; paste: [event: ClipboardEvent] }>()
const field = ref<HTMLInputElement>()
const length = computed(() => (typed.value || props.placeholder).length)

/** A foot-switch bounces: a second press within this is the same one. What was typed is meant. */
const BOUNCE_MS = 120
let lastTaken = 0

/** Enter takes; so does a foot-switch, which sends a space or a page key. A space within a figure is the figure's. */
function onKey(event: KeyboardEvent): void {
  const pedal = event.key === 'PageDown' || (event.key === ' ' && !typed.value)
  if (event.key !== 'Enter' && !pedal) return emit('key', event)
  event.preventDefault()
  if (event.repeat || (!typed.value && Date.now() - lastTaken < BOUNCE_MS)) return
  lastTaken = Date.now()
  emit('take')
}
defineExpose({ focus: () => field.value?.focus(), select: () => field.value?.select() })
</script>

<template>
  <div class="figure-row">
    <input
      ref="field"
      v-model="typed"
      class="entry mono"
      :class="{ six: length > 5, long: length > 6, longer: length > 10, forming }"
      :aria-label="label"
      :placeholder="placeholder"
      inputmode="decimal"
      autocomplete="off"
      spellcheck="false"
      data-commands="yes"
      @keydown="onKey"
      @paste="emit('paste', $event)"
    />
    <span class="unit">{{ unit }}</span>
  </div>
</template>

<style scoped>
.figure-row {
  display: flex;
  align-items: baseline;
  gap: 12px;
}
.entry {
  width: 100%;
  min-width: 0;
  padding: 0;
  border: 0;
  border-bottom: 2px solid var(--hair);
  background: none;
  color: var(--ink);
  font-size: 92px;
  font-weight: 600;
  line-height: 1.1;
  letter-spacing: -0.04em;
}
.entry.six {
  font-size: 80px;
}
.entry.long {
  font-size: 54px;
}
.entry.longer {
  font-size: 32px;
}
.entry::placeholder {
  color: var(--hair);
  opacity: 1;
}
.entry.forming::placeholder {
  color: var(--ink);
}
.entry:focus-visible {
  outline: none;
  border-color: var(--dye);
}
.unit {
  font: 500 22px var(--narrow);
  color: var(--quiet);
  white-space: nowrap;
}
@media (max-width: 1000px) {
  .entry {
    font-size: 120px;
  }
}
</style>
