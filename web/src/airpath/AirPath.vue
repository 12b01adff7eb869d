<script setup lang="ts">
/**
 * The air path as a half-section to scale. What was measured carries its figure; what was not is hatched, with the
 * most that its bore can pass in italics.
 */
import { computed, ref, useId } from 'vue'
import { useLit } from '@/ui/lit'
import { useWidth } from '@/ui/useWidth'
import {
  boreOf,
  inMm,
  layOut,
  portCount,
  ROOMS,
  scaleBar,
  walls,
  type PathElement,
  type PathNode,
  type Shape,
} from './layout'
import { fins, pleats, throat } from './glyphs'

const props = withDefaults(
  defineProps<{
    tree: PathNode
    /** A slim band on working screens, large on the job's home, a miniature on the board. */
    size?: 'band' | 'large' | 'mini'
    height: number
    active?: number
    selected?: string
    /** Elements that lose most, and those that are changed in thought, by node. */
    pinched?: ReadonlySet<string>
    thoughts?: ReadonlySet<string>
    label: string
  }>(),
  { size: 'band' },
)
const emit = defineEmits<{ select: [element: PathElement]; bore: [mm: number] }>()

const box = ref<HTMLElement>()
const width = useWidth(box, 900, 120)
const hatch = useId()
const lit = useLit()

const large = computed(() => props.size === 'large')
const mini = computed(() => props.size === 'mini')
const band = computed(() => props.size === 'band')
/** Ports of many cylinders are told in two columns where one is too close to read, and by their range where two are. */
const columns = computed(() => {
  if (!band.value) return 1
  const pitch = (props.height - 10) / Math.max(1, portCount(props.tree))
  return pitch >= 12.5 ? 1 : pitch >= 6.2 ? 2 : 0
})
const drawing = computed(() => {
  const right = mini.value ? 3 : columns.value === 2 ? 172 : columns.value ? 96 : 130
  return layOut(props.tree, {
    ...ROOMS[props.size],
    width: width.value,
    height: props.height,
    right,
    stretch: !large.value,
  })
})
/** How far words stand off what they name, and how near to the frame a figure may stand. */
const off = computed(() =>
  band.value ? { figure: 4, label: 13, raised: 12, top: 11 } : { figure: 9, label: 19, raised: 15, top: 11 },
)
const shapes = computed(() =>
  drawing.value.shapes.map((s) => ({ ...s, key: s.element.node_id, d: walls(s, s.boreIn, s.boreOut) })),
)
const bar = computed(() => scaleBar(drawing.value.pxPerMm, width.value))
const links = computed(() => drawing.value.links.map((l) => walls(l, l.boreIn, l.boreOut)))
const ports = computed(() => shapes.value.filter((s) => s.port))
const portRange = computed(() => {
  const flows = ports.value.flatMap((p) => p.element.flow ?? [])
  if (!flows.length) return `${ports.value.length} ports`
  const [low, high] = [Math.min(...flows.map((f) => f.value)), Math.max(...flows.map((f) => f.value))]
  return `${low.toFixed(0)} to ${high.toFixed(0)}`
})
const axisEnd = computed(() => Math.min(...shapes.value.filter((s) => s.port).map((s) => s.x0), width.value))
const axisY = computed(() => shapes.value.find((s) => !s.port)?.yOut ?? props.height / 2)

/** Whether another row stands where a word under this element would. */
function crowded(s: Shape, down: number): boolean {
  return shapes.value.some((o) => o.row > 0 && o.x0 < s.x1 && o.x1 > s.x0 && o.yIn - o.boreIn / 2 < down)
}

/** Words of the first row, under each element; in the large picture a line lower where they would touch. */
const labels = computed(() => {
  const ends = [-1, -1]
  let figureEnd = -1
  return shapes.value
    .filter((s) => !s.port && s.row === 0)
    .map((s) => {
      const x = (s.x0 + s.x1) / 2
      const half = s.element.label.length * (band.value ? 3 : 3.3)
      const line = x - half > (ends[0] ?? -1) ? 0 : 1
      ends[line] = x + half + 4
      const below = s.yOut + Math.max(s.boreOut, s.boreIn) / 2
      const shown = (line === 0 || large.value) && !crowded(s, below + off.value.label + 5)
      const figure = figureOf(s.element)?.text ?? ''
      const wide = figure.length * 4.6
      const raised = figure !== '' && x - wide < figureEnd
      if (figure) figureEnd = raised ? figureEnd : x + wide + 3
      return { s, x, line, shown, below, above: s.yIn - s.boreIn / 2 - (raised ? off.value.raised : 0) }
    })
})

function tone(s: Shape): string {
  if (s.element.cylinder != null && s.element.cylinder === props.active) return 'active'
  if (props.selected && s.element.node_id === props.selected) return 'active'
  if (lit.value === `rung-${s.element.cylinder}`) return 'active'
  if (props.thoughts?.has(s.element.node_id)) return 'cut thought'
  return s.element.cut ? 'cut' : 'as-is'
}

/** The wall of the selected element that can be dragged: the upper one, beside its figure, where its bore is known. */
const handle = computed(() => {
  if (!large.value) return undefined
  const s = shapes.value.find((o) => o.element.node_id === props.selected)
  if (!s || s.assumed) return undefined
  const at = s.port ? 0.8 : 0.25
  const y = s.yIn + (s.yOut - s.yIn) * (s.port ? 0.93 : at)
  return { x: s.x0 + (s.x1 - s.x0) * at, y: y - (s.boreIn + (s.boreOut - s.boreIn) * at) / 2, s }
})
/** A drag is finer than the picture: at its scale a pixel would be several millimetres. */
const MM_PER_PX = 0.5
let dragged: { from: number; bore: number } | undefined

function drag(event: PointerEvent): void {
  const target = event.currentTarget as SVGElement
  if (event.type === 'pointerdown' && handle.value) {
    target.setPointerCapture(event.pointerId)
    const { boreIn, boreOut } = handle.value.s
    const scale = drawing.value.pxPerMm
    dragged = { from: event.clientY, bore: Math.min(boreIn, boreOut) / scale }
  } else if (event.type === 'pointermove' && dragged) {
    emit('bore', dragged.bore + (dragged.from - event.clientY) * MM_PER_PX)
  } else if (event.type === 'pointerup') {
    dragged = undefined
  }
}

function figureOf(e: PathElement): { text: string; guess: boolean } | undefined {
  if (e.flow) return { text: e.flow.text, guess: false }
  return e.ceiling ? { text: `< ${e.ceiling.text}`, guess: true } : undefined
}
</script>

<template>
  <div ref="box" class="air-path" :class="size">
    <svg :viewBox="`0 0 ${width} ${height}`" :width="width" :height="height" role="group" :aria-label="label">
      <defs>
        <pattern :id="hatch" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1="0" y1="0" x2="0" y2="7" class="hatch" />
        </pattern>
      </defs>
      <line v-if="!mini" class="axis" x1="4" :y1="axisY" :x2="axisEnd" :y2="axisY" />
      <g v-for="(l, i) in links" :key="i" class="element as-is">
        <path :d="l.upper" class="wall" />
        <path :d="l.lower" class="wall" />
      </g>
      <g
        v-for="s in shapes"
        :key="s.key"
        class="element"
        :class="[tone(s), { assumed: s.assumed, chosen: large, pinch: pinched?.has(s.element.node_id) }]"
        :tabindex="large ? 0 : undefined"
        :role="large ? 'button' : undefined"
        :aria-label="
          large
            ? `${s.element.label}, ${s.assumed ? 'not measured' : `bore ${inMm(boreOf(s.element))}`}`
            : undefined
        "
        @click="large && emit('select', s.element)"
        @keydown.enter.stop="large && emit('select', s.element)"
        @keydown.space.prevent="large && emit('select', s.element)"
      >
        <path :d="s.d.body" :fill="s.assumed ? `url(#${hatch})` : 'transparent'" class="body" />
        <path :d="s.d.upper" class="wall" />
        <path :d="s.d.lower" class="wall" />
        <template v-if="s.element.kind !== 'runner'">
          <path class="wall" :d="`M${s.x0},${s.yIn - s.boreIn / 2}v${s.boreIn}`" opacity="0.35" />
          <path class="wall" :d="`M${s.x1},${s.yOut - s.boreOut / 2}v${s.boreOut}`" opacity="0.35" />
        </template>
        <path v-if="s.element.kind === 'filter' && !mini" :d="pleats(s)" class="inner" />
        <path
          v-if="s.element.kind === 'meter' && !mini"
          class="inner dots"
          :d="`M${(s.x0 + s.x1) / 2},${s.yIn - s.boreIn / 2}v${s.boreIn}`"
        />
        <circle
          v-if="s.element.kind === 'compressor' && !mini"
          class="inner"
          :cx="(s.x0 + s.x1) / 2"
          :cy="s.yIn"
          :r="Math.min(s.boreIn, s.x1 - s.x0) * 0.36"
        />
        <path v-if="s.element.kind === 'cooler' && !mini" :d="fins(s)" class="inner" />
        <path v-if="s.element.kind === 'restrictor' && !mini" :d="throat(s)" class="inner" />
        <g v-if="s.element.kind === 'throttle' && !mini" class="blade">
          <line :x1="s.x0 + (s.x1 - s.x0) * 0.2" :x2="s.x0 + (s.x1 - s.x0) * 0.8" :y1="s.yIn" :y2="s.yIn" />
          <circle :cx="(s.x0 + s.x1) / 2" :cy="s.yIn" r="3" />
          <path
            :d="`M${s.x0},${s.yIn - s.boreIn / 2 - 4}v${s.boreIn + 8}M${s.x1},${s.yIn - s.boreIn / 2 - 4}v${s.boreIn + 8}`"
          />
        </g>
      </g>
      <template v-if="!mini">
        <g v-for="{ s, x, line, shown, below, above } in labels" :key="s.element.node_id">
          <template v-if="shown">
            <text :x="x" :y="below + off.label + line * 36" class="label" text-anchor="middle">
              {{ s.element.label }}
            </text>
            <text
              v-if="large && !s.assumed"
              :x="x"
              :y="below + 36 + line * 36"
              class="label mono"
              text-anchor="middle"
            >
              {{ inMm(boreOf(s.element)) }}
            </text>
          </template>
          <text
            v-if="figureOf(s.element)"
            :x="x"
            :y="Math.max(above - off.figure, off.top)"
            class="figure"
            :class="{ guess: figureOf(s.element)?.guess }"
            text-anchor="middle"
          >
            {{ figureOf(s.element)?.text }}
          </text>
        </g>
        <g v-for="(p, i) in ports" :key="p.element.node_id" :class="tone(p)" class="port">
          <line
            :x1="p.x1"
            :x2="p.x1"
            :y1="p.yOut - Math.max(band ? 4 : 7, p.boreOut / 2)"
            :y2="p.yOut + Math.max(band ? 4 : 7, p.boreOut / 2)"
          />
          <g
            v-if="columns"
            :transform="`translate(${p.x1 + (columns === 2 && i % 2 ? 76 : 0)} ${p.yOut + 5})`"
          >
            <text x="9" class="number">{{ p.element.cylinder }}</text>
            <text x="30" class="figure" :class="{ guess: figureOf(p.element)?.guess }">
              {{ figureOf(p.element)?.text ?? '–' }}
            </text>
          </g>
        </g>
        <text v-if="!columns" :x="(ports[0]?.x1 ?? 0) + 9" :y="axisY + 5" class="figure">
          {{ portRange }}
        </text>
        <g
          v-if="handle"
          class="handle"
          :transform="`translate(${handle.x} ${handle.y})`"
          @pointerdown.stop="drag"
          @pointermove="drag"
          @pointerup="drag"
        >
          <rect x="-16" y="-15" width="32" height="30" />
          <path d="M-6,-3l6,-8l6,8zM-6,3l6,8l6,-8z" />
        </g>
        <g v-if="large" class="scale" :transform="`translate(14 ${height - 12})`">
          <path :d="`M0,-4v8M0,0h${bar.px}M${bar.px},-4v8`" />
          <text :x="bar.px + 8" y="4" class="label">
            {{ bar.mm }} mm · bores and lengths to scale, runners straightened
          </text>
        </g>
      </template>
    </svg>
  </div>
</template>

<style scoped>
.air-path {
  min-width: 0;
  overflow: hidden;
}
svg {
  display: block;
}
.axis {
  stroke: var(--hair);
  stroke-dasharray: 14 4 3 4;
}
.hatch {
  stroke: var(--hair);
  stroke-width: 1.4;
}
.wall {
  fill: none;
  stroke: currentColor;
  stroke-width: 1.7;
}
.mini .wall {
  stroke-width: 1.1;
}
.body {
  stroke: none;
}
.as-is {
  color: var(--ink);
}
.cut {
  color: var(--cut);
}
.active {
  color: var(--dye);
}
.active .wall {
  stroke-width: 2.4;
}
.assumed .wall {
  stroke-dasharray: 5 4;
  color: var(--quiet);
}
.pinch .body {
  fill: var(--dye-wash);
}
.thought .wall {
  stroke-width: 2.6;
}
.handle {
  cursor: ns-resize;
  touch-action: none;
}
.handle rect {
  fill: transparent;
}
.handle path {
  fill: var(--dye);
  stroke: var(--ground);
}
.inner {
  fill: none;
  stroke: var(--quiet);
  stroke-width: 1;
}
.dots {
  stroke-dasharray: 2 3;
}
.blade line,
.blade path {
  stroke: currentColor;
  stroke-width: 2.2;
}
.blade circle {
  fill: var(--ground);
  stroke: currentColor;
  stroke-width: 1.6;
}
.label {
  font: 500 14px var(--narrow);
  fill: var(--quiet);
}
.band .label,
.band .figure,
.band .number {
  font-size: 13px;
}
.label.mono {
  font: 500 13px var(--mono);
}
.figure {
  font: 500 15px var(--mono);
  fill: currentColor;
  stroke: var(--ground);
  stroke-width: 3px;
  paint-order: stroke;
}
.figure.guess {
  font-style: italic;
  fill: var(--quiet);
}
.number {
  font: 600 15px var(--sans);
  fill: var(--ink);
}
.port line {
  stroke: var(--ink);
  stroke-width: 2.6;
}
.scale path {
  stroke: var(--quiet);
  fill: none;
}
.chosen {
  cursor: pointer;
  outline-offset: 3px;
}
.chosen:hover .body,
.chosen:focus-visible .body {
  fill: var(--dye-wash);
}
</style>
