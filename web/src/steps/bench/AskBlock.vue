<script setup lang="ts">
/** What a pasted block is read as, before any of it is kept. */
import Button from 'primevue/button'
import { computed, onMounted, ref } from 'vue'
import KeyCap from '@/frame/KeyCap.vue'
import { useAnswers } from '@/frame/answers'
import { byRunner, type Axis, type Block } from './block'

const props = defineProps<{
  block: Block
  axis: Axis
  sure: boolean
  start: (count: number) => number
  read: number[]
}>()
const emit = defineEmits<{ keep: [figures: string[][]]; turn: []; leave: [] }>()
const figures = computed(() => byRunner(props.block, props.axis))
const from = computed(() => props.start(figures.value.length))
const count = computed(() => figures.value.flat().length)
const again = computed(() => figures.value.flatMap((_, i) => props.read.filter((n) => n === from.value + i)))
const keepButton = ref<{ $el: HTMLElement }>()
onMounted(() => keepButton.value?.$el.focus())

useAnswers((number) => {
  if (number === 1) emit('keep', figures.value)
  else if (number === 2) emit('turn')
  return number <= 2
})
</script>

<template>
  <form
    class="ask"
    aria-label="Pasted figures"
    @submit.prevent="emit('keep', figures)"
    @keydown.esc="emit('leave')"
  >
    <p>
      {{ count }} figures pasted: a runner in each {{ axis === 'rows' ? 'row' : 'column' }}.
      <b v-if="!sure">Is that right?</b>
    </p>
    <table class="mono">
      <tbody>
        <tr v-for="(row, i) in figures" :key="i">
          <th scope="row">runner {{ from + i }}</th>
          <td>{{ row.join('   ') || 'no figure' }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="again.length" class="doubt">
      Runner {{ again.join(', ') }} already read: these are added as refits.
    </p>
    <div class="ways">
      <Button ref="keepButton" type="submit" size="small"
        >Save {{ count }} figures <KeyCap k="Alt 1"
      /></Button>
      <button type="button" class="way" @click="emit('turn')">
        <KeyCap k="Alt 2" /> a runner in each {{ axis === 'rows' ? 'column' : 'row' }}
      </button>
      <button type="button" class="way" @click="emit('leave')"><KeyCap k="Esc" /> cancel</button>
    </div>
  </form>
</template>

<style scoped>
table {
  font-size: 14px;
  border-spacing: 0;
  max-height: 220px;
  white-space: pre-wrap;
}
th {
  padding-right: 14px;
  color: var(--quiet);
  text-align: left;
  font-weight: 400;
}
</style>
