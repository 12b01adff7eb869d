<script setup lang="ts">
/** The figure being taken, its samples, the question about it, and the one button that keeps it. */
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import KeyCap from '@/frame/KeyCap.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import FigureEntry from './FigureEntry.vue'
import LiveStrip from './LiveStrip.vue'
import type { TakingState } from './useTaking'

const props = defineProps<{
  taking: TakingState
  label: string
  unit: string
  placeholder: string
  /** What the button says, and whether it is offered now. */
  words: string
  asking?: boolean
  /** Nothing is to flow: a zero, or a leak. */
  still?: boolean
}>()
const emit = defineEmits<{ paste: [event: ClipboardEvent] }>()
const { typed, refused, entry, problem, ready, keep, takeBack, choosePatch, onKey } = props.taking
const { state, strip, takeable, fresh, needed, last } = props.taking.live
const field = ref<InstanceType<typeof FigureEntry>>()
entry.value = { focus: () => field.value?.focus(), select: () => field.value?.select() }
const shown = computed(() => state.value?.mean?.text ?? props.placeholder)
</script>

<template>
  <FigureEntry
    ref="field"
    v-model="typed"
    :label="label"
    :unit="unit"
    :placeholder="shown"
    :forming="!!takeable"
    @take="keep"
    @key="onKey"
    @paste="emit('paste', $event)"
  />
  <LiveStrip
    v-if="state"
    :state="state"
    :strip="strip"
    :fresh="fresh"
    :needed="needed"
    :last="last"
    :still="still"
  />
  <slot name="first" />
  <ProblemNote
    v-if="problem?.problem && !$slots['first']"
    :problem="problem.problem"
    give-up="discard this reading"
    @choose="choosePatch"
    @give-up="takeBack"
  />
  <ProblemNote v-else-if="refused" :problem="refused.problem" />
  <slot />
  <Button v-if="!asking" class="keep" :disabled="!ready" @click="keep">
    <span>{{ words }}</span>
    <KeyCap k="Enter" />
  </Button>
</template>

<style scoped>
.keep {
  justify-content: space-between;
  padding: 10px 18px;
  font-size: 19px;
}
</style>
