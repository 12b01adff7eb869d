<script setup lang="ts">
/** Which stage begins: what is measured from now on belongs to it. */
import { computed, ref } from 'vue'
import { moveAmong, useAnswers } from '@/frame/answers'
import { useSession } from '@/frame/session'
import KeyCap from '@/frame/KeyCap.vue'
import ChoiceField from '@/ui/ChoiceField.vue'

const props = defineProps<{ pieces?: readonly { part_id: string; role: string }[] }>()
const emit = defineEmits<{ stage: [stage: number, piece: string | null]; leave: [] }>()
const piece = ref<string | null>(null)
const choices = computed(() => [
  { label: 'the whole', value: null },
  ...(props.pieces ?? []).map((p) => ({ label: p.role, value: p.part_id })),
])

const { shop } = useSession()
const stages = computed(() => shop.value?.stages ?? [])
useAnswers((number) => {
  const found = stages.value.some(({ stage }) => stage === number)
  if (found) emit('stage', number, piece.value)
  return found
})
</script>

<template>
  <div class="ask" @keydown.esc="emit('leave')">
    <p>Which stage begins? What is measured from now on belongs to it.</p>
    <ChoiceField v-if="pieces?.length" v-model="piece" label="Which piece" :options="choices" />
    <div class="ways" @keydown="moveAmong">
      <button
        v-for="s in stages"
        :key="s.stage"
        type="button"
        class="way"
        @click="emit('stage', s.stage, piece)"
      >
        <KeyCap :k="`Alt ${s.stage}`" /> {{ s.words }}
      </button>
      <button type="button" class="way" @click="emit('leave')"><KeyCap k="Esc" /> Not yet</button>
    </div>
  </div>
</template>
