<script setup lang="ts">
/** Speed as it was logged, row by row, with the stretch that counts: its ends are moved by pointer or arrow keys. */
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { useWidth } from '@/ui/useWidth'

const props = defineProps<{ trace: Schemas['Trace']; rowCount: number; unit: string }>()
/** First and last row that count, from 0. */
const first = defineModel<number>('first', { required: true })
const last = defineModel<number>('last', { required: true })
const box = ref<HTMLElement>()
const width = useWidth(box, 800, 320)
const [HEIGHT, LEFT, RIGHT, TOP, BOTTOM] = [118, 52, 12, 10, 22]
const PAGE = 10
const x = computed(() => scaleLinear([0, Math.max(1, props.rowCount - 1)], [LEFT, width.value - RIGHT]))
const y = computed(() => {
  const { speeds } = props.trace
  return scaleLinear([Math.min(...speeds, 0), Math.max(...speeds, 1)], [HEIGHT - BOTTOM, TOP])
})
const path = computed(
  () =>
    line<number>(
      (_, i) => x.value(props.trace.rows[i] ?? 0),
      (v) => y.value(v),
    )(props.trace.speeds) ?? '',
)
const dragged = ref<'first' | 'last'>()

function move(end: 'first' | 'last', row: number): void {
  if (end === 'first') first.value = Math.max(0, Math.min(row, last.value - 1))
  else last.value = Math.min(props.rowCount - 1, Math.max(row, first.value + 1))
}

function onPointer(event: PointerEvent): void {
  if (!dragged.value || !box.value) return
  move(dragged.value, Math.round(x.value.invert(event.clientX - box.value.getBoundingClientRect().left)))
}

function onKey(event: KeyboardEvent, end: 'first' | 'last'): void {
  const by = { ArrowLeft: -1, ArrowRight: 1, PageDown: -PAGE, PageUp: PAGE }[event.key]
  if (!by) return
  event.preventDefault()
  move(end, (end === 'first' ? first.value : last.value) + by)
}
const ends = computed(() => [
  { end: 'first' as const, row: first.value, says: 'first row that counts' },
  { end: 'last' as const, row: last.value, says: 'last row that counts' },
])
</script>

<template>
  <div ref="box" class="trace" @pointermove="onPointer" @pointerup="dragged = undefined">
    <svg
      :viewBox="`0 0 ${width} ${HEIGHT}`"
      :width="width"
      :height="HEIGHT"
      role="group"
      aria-label="speed by row"
    >
      <rect
        class="counts"
        :x="x(first)"
        :width="Math.max(0, x(last) - x(first))"
        :y="TOP - 6"
        :height="HEIGHT - BOTTOM - TOP + 6"
      />
      <g class="scale mono">
        <text v-for="t in y.ticks(3)" :key="t" :x="LEFT - 8" :y="y(t) + 4" text-anchor="end">{{ t }}</text>
        <text v-for="t in x.ticks(6)" :key="`x${t}`" :x="x(t)" :y="HEIGHT - 5" text-anchor="middle">
          {{ t }}
        </text>
      </g>
      <path class="logged" :d="path" />
      <g
        v-for="e in ends"
        :key="e.end"
        class="end"
        tabindex="0"
        role="slider"
        :aria-label="e.says"
        :aria-valuenow="e.row + 1"
        aria-valuemin="1"
        :aria-valuemax="rowCount"
        @keydown="onKey($event, e.end)"
        @pointerdown.prevent="dragged = e.end"
      >
        <line :x1="x(e.row)" :x2="x(e.row)" :y1="TOP - 6" :y2="HEIGHT - BOTTOM" />
        <rect :x="x(e.row) - 7" :y="HEIGHT / 2 - 22" width="14" height="26" rx="3" />
      </g>
    </svg>
    <p class="narrow quiet">
      Speed, {{ unit || 'unit not known' }}, by row. What counts is shaded; drag its ends, or Tab to one and
      use the arrows.
    </p>
  </div>
</template>

<style scoped>
.trace {
  min-width: 0;
  touch-action: none;
}
svg {
  display: block;
}
p {
  margin: 0;
}
.scale text {
  font-size: 13px;
  fill: var(--quiet);
}
.counts {
  fill: var(--dye-wash);
}
.logged {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
}
.end {
  cursor: ew-resize;
  outline: none;
}
.end line {
  stroke: var(--dye);
  stroke-width: 2;
}
.end rect {
  fill: var(--sheet);
  stroke: var(--dye);
  stroke-width: 2;
}
.end:focus-visible rect {
  fill: var(--dye);
}
</style>
