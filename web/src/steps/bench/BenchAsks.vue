<script setup lang="ts">
/** What the bench asks besides a figure: one question at a time, in place of the button that keeps. */
import AskBlock from './AskBlock.vue'
import AskCheck from './AskCheck.vue'
import AskCut from './AskCut.vue'
import AskGain from './AskGain.vue'
import AskRounds from './AskRounds.vue'
import AskStrike from './AskStrike.vue'
import type { useChecks } from './checks'
import type { useRounds } from './rounds'
import type { useTable } from './table'
import type { useBenchMode } from './useBenchMode'

const props = defineProps<{
  asking: ReturnType<typeof useBenchMode>
  checks: ReturnType<typeof useChecks>
  rounds: ReturnType<typeof useRounds>
  table: ReturnType<typeof useTable>
  figure: string
  cylinder: number
  live: boolean
  /** Runners that have a figure on this side. */
  read: number[]
}>()
const emit = defineEmits<{ strike: [reason: string]; pasted: [figures: string[][]]; planned: [] }>()
const { mode, leaveQuestion, leaveCheck, chooseCheck, cutTo } = props.asking
const { kind, plate, depression } = props.checks
const { block, start, turn } = props.table

function begin(...plan: Parameters<typeof props.rounds.begin>): void {
  props.rounds.begin(...plan)
  emit('planned')
  leaveQuestion()
}

function end(): void {
  props.rounds.end()
  leaveQuestion()
}

function leaveBlock(): void {
  block.value = undefined
  leaveQuestion()
}
</script>

<template>
  <AskBlock
    v-if="block"
    v-bind="block"
    :start="start"
    :read="read"
    @keep="emit('pasted', $event)"
    @turn="turn"
    @leave="leaveBlock"
  />
  <AskRounds
    v-else-if="mode === 'rounds'"
    :planned="!!rounds.plan.value"
    @begin="begin"
    @end="end"
    @leave="leaveQuestion"
  />
  <AskStrike
    v-else-if="mode === 'strike'"
    :figure="figure"
    :cylinder="cylinder"
    @strike="emit('strike', $event)"
    @leave="leaveQuestion"
  />
  <AskGain v-else-if="mode === 'gain'" @leave="leaveQuestion" />
  <AskCut v-else-if="mode === 'cut'" @cut="cutTo" @leave="leaveQuestion" />
  <AskCheck
    v-else-if="mode === 'check'"
    v-model:plate="plate"
    v-model:depression="depression"
    :kind="kind"
    :live="live"
    @choose="chooseCheck"
    @leave="leaveCheck"
  />
</template>
