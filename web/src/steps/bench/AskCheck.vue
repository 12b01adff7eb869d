<script setup lang="ts">
/** Which check of the bench is taken, and what a plate or a low depression has to say besides. */
import { moveAmong, useAnswers } from '@/frame/answers'
import KeyCap from '@/frame/KeyCap.vue'
import TextField from '@/ui/TextField.vue'
import { CHECKS, type CheckKind } from './checks'

const props = defineProps<{ kind: CheckKind | undefined; live: boolean }>()
const plate = defineModel<{ name: string; flow: string; percent: string }>('plate', { required: true })
const depression = defineModel<string>('depression', { required: true })
const emit = defineEmits<{ choose: [kind: CheckKind]; leave: [] }>()

useAnswers((number) => {
  const check = props.kind ? undefined : CHECKS[number - 1]
  if (check) emit('choose', check.kind)
  return !!check
})
</script>

<template>
  <div class="ask">
    <p v-if="kind">{{ CHECKS.find((c) => c.kind === kind)?.says }}.</p>
    <p v-else>Which bench check?</p>
    <div v-if="!kind" class="ways" @keydown="moveAmong">
      <button
        v-for="(c, i) in CHECKS"
        :key="c.kind"
        type="button"
        class="way"
        @click="emit('choose', c.kind)"
      >
        <KeyCap :k="`Alt ${i + 1}`" /> {{ c.label }}
      </button>
    </div>
    <div v-else-if="kind === 'plate'" class="fields">
      <TextField v-model="plate.name" label="Plate" small focus placeholder="brass 40" />
      <TextField v-model="plate.flow" label="Known flow at 28 inH2O" small placeholder="not known" />
      <TextField v-model="plate.percent" label="known to, ± %" small />
    </div>
    <TextField v-else-if="kind === 'low' && !live" v-model="depression" label="Depression" small />
    <button type="button" class="way" @click="emit('leave')"><KeyCap k="Esc" /> Cancel</button>
  </div>
</template>

<style scoped>
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr 60px;
  gap: 8px;
}
</style>
