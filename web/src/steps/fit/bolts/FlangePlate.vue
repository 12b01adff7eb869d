<script setup lang="ts">
/** The flange face-on: each bolt where it sits, with its number in the order; those that are tight, and the next. */
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { boxOf, type Place } from './flange'

const props = defineProps<{
  bolts: readonly (Place & { number: number; length_mm?: number | null })[]
  ticked?: readonly number[]
  next?: number | null
  at?: number | null
  cross?: Place
}>()
const emit = defineEmits<{ tap: [place: Place]; pick: [bolt: number] }>()
const svg = ref<SVGSVGElement>()
const box = computed(() => boxOf(props.cross ? [...props.bolts, props.cross] : props.bolts))
const before = computed(() => {
  const last = props.ticked?.at(-1)
  return last == null ? undefined : props.bolts[last]
})
const here = computed(() => (props.next == null ? undefined : props.bolts[props.next]))
const size = computed(() => Math.max(7, Math.min(10, box.value.width / 24)))

function tap(event: MouseEvent): void {
  const matrix = svg.value?.getScreenCTM()
  if (!matrix) return
  const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse())
  emit('tap', { x_mm: Math.round(at.x), y_mm: Math.round(at.y) })
}
export type Bolt = Schemas['BoltView']
</script>

<template>
  <svg
    ref="svg"
    :viewBox="`${box.x} ${box.y} ${box.width} ${box.height + 12}`"
    role="img"
    aria-label="The flange, its bolts numbered in their order"
    @click="tap"
  >
    <rect
      class="face"
      :x="box.x + 3"
      :y="box.y + 3"
      :width="box.width - 6"
      :height="box.height - 6"
      rx="12"
    />
    <g class="scale">
      <path :d="`M${box.x + 12},${box.y + box.height + 5}h50m0,-3v6m-50,-6v6`" />
      <text class="measure" :x="box.x + 68" :y="box.y + box.height + 5 + size * 0.4" :font-size="size * 1.15">
        50 mm
      </text>
    </g>
    <line
      v-if="before && here"
      class="across"
      :x1="before.x_mm"
      :y1="before.y_mm"
      :x2="here.x_mm"
      :y2="here.y_mm"
    />
    <g
      v-for="(b, n) in bolts"
      :key="`${b.x_mm} ${b.y_mm}`"
      class="bolt"
      :class="{ tight: ticked?.includes(n), next: n === next, at: n === at }"
      @click.stop="emit('pick', n)"
    >
      <circle :cx="b.x_mm" :cy="b.y_mm" :r="n === next ? size * 1.35 : size" />
      <text :x="b.x_mm" :y="b.y_mm + size * 0.48" :font-size="size * 1.15">{{ b.number }}</text>
      <text v-if="b.length_mm" class="long" :x="b.x_mm" :y="b.y_mm + size * 2.2" :font-size="size * 1.155">
        {{ b.length_mm }} mm
      </text>
    </g>
    <path
      v-if="cross"
      class="cross"
      :d="`M${cross.x_mm - 8},${cross.y_mm}h16M${cross.x_mm},${cross.y_mm - 8}v16`"
    />
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  max-height: 330px;
  touch-action: manipulation;
}
.face {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.2;
}
.bolt {
  cursor: pointer;
}
.bolt circle {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.4;
}
.bolt text {
  font-family: var(--mono);
  font-weight: 700;
  fill: var(--ink);
  text-anchor: middle;
}
.bolt .long {
  font-weight: 500;
  fill: var(--quiet);
}
.tight circle {
  fill: var(--cut);
  stroke: var(--cut);
}
.tight text {
  fill: var(--sheet);
}
.at circle {
  stroke: var(--dye);
  stroke-width: 3;
}
.next circle {
  fill: var(--dye);
  stroke: var(--dye);
}
.next text {
  fill: var(--on-dye);
}
.tight .long,
.next .long {
  fill: var(--quiet);
}
.scale path {
  fill: none;
  stroke: var(--quiet);
}
.scale text {
  font-family: var(--mono);
  fill: var(--quiet);
  text-anchor: middle;
}
.scale .measure {
  text-anchor: start;
}
.across {
  stroke: var(--dye);
  stroke-width: 1.2;
  stroke-dasharray: 4 3;
}
.cross {
  fill: none;
  stroke: var(--dye);
  stroke-width: 1.6;
}
</style>
