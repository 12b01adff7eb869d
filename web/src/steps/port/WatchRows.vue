<script setup lang="ts">
/** The rounds of the stage by runner, with the time each took; the watch that runs stands large. */
import { useIntervalFn } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { watch } from './section'

type Pass = Schemas['PassView']
const props = defineProps<{
  passes: Schemas['PassSheet']
  runners: Schemas['PortRunner'][]
  runner: number
}>()
/** A round that is done is looked at; one that is not is begun, or goes on. */
const emit = defineEmits<{ start: [runner: number, round: string]; look: [runner: number] }>()
const narrow = computed(() => (props.runners.length > 6 ? '46px' : '70px'))
const tick = ref(Date.now())
useIntervalFn(() => (tick.value = Date.now()), 500)
const of = (round: Schemas['RoundView'], number: number) => round.passes.find((p) => p.runner === number)
const shown = (pass: Pass | undefined) => {
  if (!pass) return '–'
  const more = pass.running_since ? (tick.value - Date.parse(pass.running_since)) / 1000 : 0
  return watch(pass.seconds + more)
}
/** The round that is on, one before and two after: the rest would push it off the screen. */
const rows = computed(() => {
  const first = Math.max(0, Math.min(props.passes.here - 1, props.passes.rounds.length - 4))
  return props.passes.rounds.map((round, n) => ({ round, n })).slice(first, first + 4)
})
const beside = (r: Schemas['RoundView']) =>
  r.planned_s ? `planned ${watch(r.planned_s)}` : r.average_s ? `average ${watch(r.average_s)}` : ''
</script>

<template>
  <section class="rows" aria-label="Passes">
    <div v-for="{ round, n } in rows" :key="round.name" class="line" :class="{ here: n === passes.here }">
      <span class="name narrow">{{ n === passes.here ? 'Watch' : '' }}</span>
      <button
        v-for="(r, i) in runners"
        :key="r.number"
        type="button"
        class="time mono"
        tabindex="-1"
        :class="{
          on: i === runner && n === passes.here,
          runs: of(round, r.number)?.running_since,
          done: of(round, r.number)?.done,
        }"
        :aria-label="`${round.name}, runner ${r.number}: ${shown(of(round, r.number))}`"
        @click="of(round, r.number)?.done ? emit('look', i) : emit('start', r.number, round.name)"
      >
        {{ shown(of(round, r.number)) }}
      </button>
      <span class="round narrow"
        ><b>{{ round.name }}</b> {{ beside(round) }}{{ round.worn ? ` · ${round.worn} worn` : '' }}</span
      >
    </div>
    <p v-if="passes.rest" class="rest narrow quiet">{{ passes.recipe }} · {{ passes.rest }}</p>
    <p v-if="passes.worn" class="rest narrow quiet">Tools: {{ passes.worn }}</p>
  </section>
</template>

<style scoped>
.rows {
  padding-top: 8px;
  overflow-x: auto;
}
.rest {
  padding-top: 6px;
  font-size: 15px;
}
.line {
  display: grid;
  grid-template-columns: 42px repeat(v-bind('runners.length'), minmax(v-bind('narrow'), 1fr)) 156px;
  align-items: center;
  min-height: 28px;
  border-bottom: 1px solid var(--faint);
}
.line.here {
  min-height: 44px;
}
.name {
  font-size: 14px;
  font-weight: 600;
  color: var(--quiet);
}
.time {
  align-self: stretch;
  padding: 0 0 0 6px;
  border: 0;
  background: none;
  color: var(--quiet);
  cursor: pointer;
  text-align: left;
}
.time.done {
  color: var(--ink);
}
.here .time {
  font-size: 17px;
}
.time.on {
  box-shadow: inset 0 0 0 2px var(--dye);
}
.time.runs {
  background: var(--dye);
  color: var(--on-dye);
  font-weight: 700;
}
.round {
  padding-left: 8px;
  font-size: 14px;
  color: var(--quiet);
}
.round b {
  color: var(--ink);
  font-weight: 600;
}
</style>
