<script setup lang="ts">
/** A dimension at its place on the drawing: pressed, it is typed into; Enter keeps it, Esc leaves it. */
import { nextTick, ref } from 'vue'

const props = defineProps<{
  label: string
  unit: string
  value: number | null
  advertised?: number | null
  /** Where it stands on the drawing, px. */
  x: number
  y: number
}>()
const emit = defineEmits<{ measure: [typed: string] }>()
const typing = ref(false)
const typed = ref('')
const field = ref<HTMLInputElement>()
const text = (v: number | null | undefined) => (v == null ? '–' : v.toFixed(v < 10 ? 2 : 1))

async function begin(): Promise<void> {
  typed.value = props.value == null ? '' : text(props.value)
  typing.value = true
  await nextTick()
  field.value?.select()
}
function keep(): void {
  typing.value = false
  const now = typed.value.trim()
  if (now && now !== text(props.value)) emit('measure', now)
}
</script>

<template>
  <div class="call-out" :style="{ left: `${x}px`, top: `${y}px` }">
    <span class="narrow quiet">{{ label }}</span>
    <form v-if="typing" @submit.prevent="keep">
      <input
        ref="field"
        v-model="typed"
        :aria-label="`${label}, ${unit}`"
        @blur="keep"
        @keydown.esc.stop.prevent="typing = false"
      />
    </form>
    <button v-else type="button" :class="{ open: value == null }" @click="begin">
      <span class="mono">{{ text(value) }}</span> <small class="narrow quiet">{{ unit }}</small>
    </button>
    <span
      v-if="advertised != null"
      class="narrow"
      :class="{ doubt: value != null && Math.abs(value - advertised) > 0.005 * advertised }"
      >advertised {{ text(advertised) }}</span
    >
  </div>
</template>

<style scoped>
.call-out {
  position: absolute;
  display: grid;
  line-height: 1.15;
  transform: translateX(-50%);
  justify-items: center;
  white-space: nowrap;
}
button {
  padding: 0 2px;
  border: 0;
  border-bottom: 2px solid var(--hair);
  background: none;
  color: inherit;
  cursor: text;
  font-size: 18px;
}
button.open {
  border-bottom-style: dashed;
  color: var(--quiet);
}
button:focus-visible,
button:hover {
  border-color: var(--dye);
  color: var(--dye);
}
input {
  width: 92px;
  border: 0;
  border-bottom: 2px solid var(--dye);
  background: var(--sheet);
  color: var(--dye);
  font: 600 18px var(--mono);
  text-align: center;
}
</style>
