<script setup lang="ts">
/** A picture with what was found in it. A tap, or Enter at the crosshair that the arrows move, marks a place. */
import { computed, ref } from 'vue'
import { useKeys } from '@/frame/keys'
import { handlesOf, pathOf, type Spot } from './outline'

const props = defineProps<{
  width: number
  height: number
  src?: string
  found: { points: Spot[] }[]
  chosen: Spot[]
  /** Lines between marks, and marks by themselves, each with its word. */
  lines: { from: Spot; to: Spot; says: string }[]
  marks: { at: Spot; says: string }[]
  /** Handles are shown and moved instead of taps. */
  moving: boolean
  /** A place that is tapped round by hand, so far. */
  drawing: Spot[]
}>()
/** `within` is how many dots of the picture a point of the screen covers. */
const emit = defineEmits<{ tap: [at: Spot, within: number]; move: [handle: number, by: Spot]; enter: [] }>()
defineExpose({ nearer: (by: number) => nearer(by) })
const canvas = ref<SVGSVGElement>()
const cross = ref<Spot>([props.width / 2, props.height / 2])
const walked = ref(false)
const held = ref<number>()
const handle = ref(0)
/** So many times larger, round a place. */
const zoom = ref(1)
const around = ref<Spot>([props.width / 2, props.height / 2])
const view = computed(() => {
  const [w, h] = [props.width / zoom.value, props.height / zoom.value]
  const x = Math.min(Math.max(around.value[0] - w / 2, 0), props.width - w)
  const y = Math.min(Math.max(around.value[1] - h / 2, 0), props.height - h)
  return { x, y, w, h }
})
/** A point of the screen in dots of the picture: marks are as large whatever the picture's size. */
const unit = computed(() => Math.max(view.value.w / 640, view.value.h / 480))
const MOST = 16
function nearer(by: number, at: Spot = cross.value): void {
  zoom.value = Math.min(Math.max(zoom.value * by, 1), MOST)
  around.value = at
}
const handles = computed(() => (props.moving ? handlesOf(props.chosen) : []))

function spotOf(event: PointerEvent | MouseEvent): Spot {
  const box = canvas.value?.getBoundingClientRect()
  if (!box) return [0, 0]
  // The picture is fitted into its box and centred there.
  const { x: left, y: top, w, h } = view.value
  const scale = Math.min(box.width / w, box.height / h)
  const x = left + (event.clientX - box.left - (box.width - w * scale) / 2) / scale
  const y = top + (event.clientY - box.top - (box.height - h * scale) / 2) / scale
  return [Math.min(Math.max(x, 0), props.width), Math.min(Math.max(y, 0), props.height)]
}
function tap(event: MouseEvent): void {
  if (held.value !== undefined || props.moving) return
  cross.value = spotOf(event)
  walked.value = false
  emit('tap', cross.value, Math.max(1, unit.value))
}
let last: Spot = [0, 0]
function hold(n: number, event: PointerEvent): void {
  held.value = n
  handle.value = handles.value.indexOf(n)
  last = spotOf(event)
  canvas.value?.setPointerCapture(event.pointerId)
}
function drag(event: PointerEvent): void {
  if (held.value === undefined) return
  const to = spotOf(event)
  emit('move', held.value, [to[0] - last[0], to[1] - last[1]])
  last = to
}
function walk(x: number, y: number): void {
  if (props.moving) {
    const n = handles.value[handle.value]
    if (n !== undefined) emit('move', n, [x, y])
    return
  }
  walked.value = true
  const step = 8 * unit.value
  cross.value = [
    Math.min(Math.max(cross.value[0] + x * step, 0), props.width),
    Math.min(Math.max(cross.value[1] + y * step, 0), props.height),
  ]
  around.value = cross.value
}
function fine(x: number, y: number): void {
  cross.value = [cross.value[0] + x, cross.value[1] + y]
  walked.value = true
}
useKeys([
  { key: 'ArrowRight', says: 'crosshair right', run: () => walk(1, 0) },
  { key: 'ArrowLeft', says: 'crosshair left', run: () => walk(-1, 0) },
  { key: 'ArrowDown', says: 'crosshair down', run: () => walk(0, 1) },
  { key: 'ArrowUp', says: 'crosshair up', run: () => walk(0, -1) },
  { key: '+', says: 'nearer', run: () => nearer(2) },
  { key: '-', says: 'further off', run: () => nearer(0.5) },
  { key: '6', says: 'one dot right', run: () => fine(1, 0) },
  { key: '4', says: 'one dot left', run: () => fine(-1, 0) },
  { key: '2', says: 'one dot down', run: () => fine(0, 1) },
  { key: '8', says: 'one dot up', run: () => fine(0, -1) },
  {
    key: 'Enter',
    says: 'mark at the crosshair, or save',
    run: () => {
      const focused = document.activeElement
      if (!walked.value && focused instanceof HTMLButtonElement) focused.click()
      else if (!walked.value || props.moving) emit('enter')
      else {
        walked.value = false
        emit('tap', cross.value, 1)
      }
    },
  },
  {
    key: 'n',
    says: 'next point of the outline',
    run: () => (handle.value = (handle.value + 1) % Math.max(1, handles.value.length)),
  },
])
</script>

<template>
  <svg
    ref="canvas"
    class="picture"
    :viewBox="`${view.x} ${view.y} ${view.w} ${view.h}`"
    :style="{ aspectRatio: `${width} / ${height}` }"
    role="application"
    aria-label="Picture with the outlines found in it"
    @click="tap"
    @wheel.prevent="nearer($event.deltaY < 0 ? 1.25 : 0.8, spotOf($event))"
    @pointermove="drag"
    @pointerup="held = undefined"
  >
    <image v-if="src" :href="src" :width="width" :height="height" />
    <path v-for="(f, n) in found" :key="n" class="found" :d="pathOf(f.points)" />
    <path v-if="chosen.length" class="chosen" :d="pathOf(chosen)" />
    <polyline v-if="drawing.length" class="chosen" :points="drawing.map((p) => p.join(',')).join(' ')" />
    <g v-for="(l, n) in lines" :key="`l${n}`" class="line">
      <line :x1="l.from[0]" :y1="l.from[1]" :x2="l.to[0]" :y2="l.to[1]" />
      <text
        :x="(l.from[0] + l.to[0]) / 2"
        :y="(l.from[1] + l.to[1]) / 2 - 7 * unit"
        :font-size="17 * unit"
        :stroke-width="4 * unit"
      >
        {{ l.says }}
      </text>
    </g>
    <g v-for="(m, n) in marks" :key="`m${n}`" class="mark">
      <circle :cx="m.at[0]" :cy="m.at[1]" :r="6 * unit" />
      <text :x="m.at[0] + 9 * unit" :y="m.at[1] - 7 * unit" :font-size="16 * unit" :stroke-width="4 * unit">
        {{ m.says }}
      </text>
    </g>
    <circle
      v-for="(n, i) in handles"
      :key="`h${n}`"
      class="handle"
      :class="{ here: i === handle }"
      :cx="chosen[n]?.[0]"
      :cy="chosen[n]?.[1]"
      :r="(i === handle ? 7 : 5) * unit"
      @pointerdown.stop="hold(n, $event)"
    />
    <path
      v-if="walked && !moving"
      class="cross"
      :d="`M${cross[0] - 16 * unit},${cross[1]}h${32 * unit}M${cross[0]},${cross[1] - 16 * unit}v${32 * unit}`"
    />
  </svg>
</template>

<style scoped>
.picture {
  display: block;
  width: 100%;
  max-height: max(320px, calc(100vh - 290px));
  background: var(--faint);
  cursor: crosshair;
  touch-action: manipulation;
}
.picture * {
  vector-effect: non-scaling-stroke;
}
.found {
  fill: transparent;
  stroke: var(--dye);
  stroke-width: 1.5;
  stroke-dasharray: 5 4;
}
.found:hover {
  fill: color-mix(in srgb, var(--dye) 18%, transparent);
}
.chosen {
  fill: color-mix(in srgb, var(--cut) 22%, transparent);
  stroke: var(--cut);
  stroke-width: 2.5;
  pointer-events: none;
}
.line line {
  stroke: var(--doubt);
  stroke-width: 3;
}
.mark circle {
  fill: none;
  stroke: var(--dye);
  stroke-width: 3;
}
.line text,
.mark text {
  font-family: var(--mono);
  font-weight: 600;
  fill: var(--ink);
  stroke: var(--ground);
  paint-order: stroke;
  vector-effect: none;
}
.line text {
  text-anchor: middle;
}
.handle {
  fill: var(--ground);
  stroke: var(--cut);
  stroke-width: 2;
  cursor: grab;
  touch-action: none;
}
.handle.here {
  fill: var(--cut);
}
.cross {
  stroke: var(--harm);
  stroke-width: 2;
  fill: none;
  pointer-events: none;
}
</style>
