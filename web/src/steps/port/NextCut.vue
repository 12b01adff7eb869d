<script setup lang="ts">
/** Where metal comes off next, how much, and what stops it; or what the station that is looked at says. */
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import ClockSection from './ClockSection.vue'

const props = defineProps<{
  sheet: Schemas['PortSheet']
  runner: Schemas['PortRunner']
  cell: Schemas['PortCell']
  /** Whether the station that is looked at is the one where to go on. */
  next: boolean
  /** Whether something is typed below it. */
  compact?: boolean
}>()
const cut = computed(() => props.cell.cut)
const HEADINGS: Record<string, string> = { gauge: 'Gauge next', measure: 'Measure next' }
const heading = computed(() => {
  if (!props.next) return 'Looked at'
  return HEADINGS[props.sheet.next?.head ?? ''] ?? 'Port next'
})
const place = computed(() => {
  const at = `${props.cell.place_mm} mm in`
  return cut.value ? `${at}, ${cut.value.side}` : at
})
const ended: Record<string, string> = {
  stop: 'Stop: polish and reflow',
  walls: 'Walls and lands end it',
  measure: 'Measure a section',
  target: 'Set a target',
  gauge: 'Gauge the wall',
}
/** In one line, what holds where no depth is given. */
const instead = computed(() => {
  const { cell } = props
  if (cell.stop) return cell.stop
  if (cell.now_mm2 == null) return 'no section measured here'
  if (cell.short === 'on') return 'on the target: nothing to take'
  if (!cell.walls.length) return 'no depth without a wall'
  return cell.wanted_mm2 == null ? 'no target here' : 'the wall is at its least'
})
</script>

<template>
  <div class="next">
    <p class="over">
      <span class="quiet narrow">{{ heading }}</span>
      <span class="narrow stage" :class="{ doubt: !sheet.in_work }">{{
        sheet.in_work ? sheet.state : `${sheet.state}, no stage in work`
      }}</span>
    </p>
    <h2>Runner {{ runner.number }}</h2>
    <p class="at">
      <strong>{{ place }}</strong>
      <span v-if="cut" class="quiet narrow">{{ cut.clock }}</span>
    </p>
    <ClockSection v-if="cell.now_mm2 != null" :cell="cell" :compact="compact" />
    <template v-if="cut">
      <p class="figure" aria-live="polite">
        <span class="depth mono">{{ cut.depth.text }}</span>
        <span>
          <b>{{ cut.depth.unit }}</b>
          {{ cut.clock === 'all round' ? 'all round' : `off the ${cut.side}` }}
        </span>
      </p>
      <dl>
        <dt class="narrow quiet">Stops you</dt>
        <dd>
          wall <b class="mono">{{ cut.left.text }}</b> {{ cut.left.unit }} left ·
          <b class="mono">{{ cut.in_hand.text }}</b> {{ cut.in_hand.unit }} in hand
          <span v-if="cut.walled" class="doubt">· the wall ends it short of the target</span>
        </dd>
        <template v-if="next && sheet.next?.gain">
          <dt class="narrow quiet">Gain</dt>
          <dd>
            <i class="mono">{{ sheet.next.gain }}</i> <span class="quiet">{{ sheet.next.estimate }}</span>
          </dd>
        </template>
      </dl>
    </template>
    <p v-else class="figure words">
      <b>{{ next || !sheet.next || sheet.next.runner != null ? instead : ended[sheet.next.head] }}</b>
    </p>
    <p v-if="cell.typed" class="narrow quiet">
      section {{ cell.typed }}{{ cell.old ? ', measured before this stage' : ''
      }}{{
        cell.hydraulic ? ` · hydraulic\u00a0⌀\u00a0${cell.hydraulic.text}\u00a0${cell.hydraulic.unit}` : ''
      }}{{ cell.velocity ? ` · ${cell.velocity}` : '' }}
    </p>
    <p v-if="cell.marks.length" class="doubt narrow">flagged: {{ cell.marks.join(', ') }}</p>
  </div>
</template>

<style scoped>
.over,
.at {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  align-items: baseline;
}
.stage {
  font-weight: 600;
  color: var(--cut);
}
.stage.doubt {
  color: var(--doubt);
}
h2 {
  font: 600 34px/1.1 var(--sans);
}
.at strong {
  font: 600 22px/1.3 var(--sans);
}
.figure {
  display: flex;
  align-items: flex-end;
  gap: 12px;
  padding-bottom: 6px;
  border-bottom: 2px solid var(--cut);
  font-size: 19px;
  font-weight: 500;
  line-height: 1.2;
}
.figure b {
  display: block;
  color: var(--cut);
  font-size: 21px;
}
.figure.words {
  border-color: var(--hair);
}
.figure.words b {
  color: var(--ink);
}
.depth {
  font-weight: 700;
  font-size: 80px;
  line-height: 0.8;
  letter-spacing: -0.04em;
  color: var(--cut);
}
dl {
  display: grid;
  grid-template-columns: 72px minmax(0, 1fr);
  gap: 3px 10px;
  margin: 8px 0 0;
}
dd {
  margin: 0;
}
</style>
