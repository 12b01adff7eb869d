<script setup lang="ts">
/** The manifold unrolled: runners across, stations down; in each cell what is short, and the thinnest wall. Beside it the
 * area along the runner that is looked at, in the same rows. */
import { scaleLinear } from 'd3-scale'
import { computed, nextTick, ref, watch } from 'vue'
import type { Schemas } from '@/api/client'
import { useLit } from '@/ui/lit'
import { pathOf } from './outline/outline'
import { boxOf, radiusOf } from './section'

type Runner = Schemas['PortRunner']
const props = defineProps<{ runners: Runner[]; places: number[]; runner: number; station: number }>()
const emit = defineEmits<{ look: [runner: number, station: number] }>()
const lit = useLit()

const WIDE = 150
const row = computed(() => Math.max(36, Math.min(62, 430 / Math.max(1, props.places.length))))
const glyph = computed(() => Math.min(33, row.value * 0.78))
const largest = computed(() =>
  Math.max(1, ...props.runners.flatMap((r) => r.cells.map((c) => radiusOf(c.now_mm2 ?? 0) * 2))),
)
const here = computed(() => props.runners[props.runner])
/** Many runners are told by their figures alone. */
const dense = computed(() => props.runners.length > 6)
const narrow = computed(() => (dense.value ? '46px' : '70px'))
const box = ref<HTMLElement>()
watch(
  () => [props.runner, props.station],
  () =>
    void nextTick(() =>
      box.value?.querySelector('.cell.here')?.scrollIntoView?.({ block: 'nearest', inline: 'nearest' }),
    ),
)

/** The area plate: values across, the rows of the grid down. */
const values = computed(() =>
  props.runners.flatMap((r) => r.cells.flatMap((c) => [c.before_mm2, c.now_mm2, c.wanted_mm2])),
)
const x = computed(() => {
  const known = values.value.filter((v): v is number => v != null)
  const [low, high] = [Math.min(...known), Math.max(...known)]
  const room = Math.max(20, (high - low) * 0.06)
  return scaleLinear([low - room, high + room], [12, WIDE - 14])
})
const y = (n: number) => (n + 0.5) * row.value
const line = (pick: (c: Runner['cells'][number]) => number | null, cells: Runner['cells']) =>
  cells
    .flatMap((c, n) => {
      const value = pick(c)
      return value == null ? [] : [`${x.value(value).toFixed(1)},${y(n).toFixed(1)}`]
    })
    .join(' ')
const plate = computed(() => values.value.some((v) => v != null))
const active = computed(() => here.value?.cells[props.station])
</script>

<template>
  <div class="unrolled">
    <div ref="box" class="grid" role="grid" aria-label="The manifold unrolled">
      <div class="line heads" role="row">
        <span class="mm narrow">mm in</span>
        <span
          v-for="(r, n) in runners"
          :key="r.number"
          role="columnheader"
          class="number"
          :class="{ on: n === runner, lit: lit === `runner-${r.number}` }"
          >{{ r.number }}<i v-if="r.jet" title="in the jet: blended most">›</i></span
        >
      </div>
      <div v-for="(place, s) in places" :key="place" class="line" role="row" :style="{ height: `${row}px` }">
        <span class="place mono">{{ place }}</span>
        <button
          v-for="(r, n) in runners"
          :key="r.number"
          type="button"
          role="gridcell"
          tabindex="-1"
          class="cell"
          :class="{ on: n === runner, here: n === runner && s === station }"
          :aria-label="`Runner ${r.number}, ${place} mm: ${r.cells[s]?.typed || 'not measured'}`"
          @click="emit('look', n, s)"
        >
          <svg
            v-if="!dense && r.cells[s]?.now_mm2"
            :width="glyph"
            :height="glyph"
            viewBox="-50 -50 100 100"
            aria-hidden="true"
          >
            <path
              v-if="r.cells[s]!.outline_mm.length"
              :class="{ cut: r.cells[s]?.short === 'on' }"
              :transform="`scale(${92 / largest})`"
              :stroke-width="(4 * largest) / 92"
              :d="pathOf(r.cells[s]!.outline_mm, true)"
            />
            <rect
              v-else
              :class="{ cut: r.cells[s]?.short === 'on' }"
              :x="(-46 * boxOf(r.cells[s]!).width) / largest"
              :y="(-46 * boxOf(r.cells[s]!).height) / largest"
              :width="(92 * boxOf(r.cells[s]!).width) / largest"
              :height="(92 * boxOf(r.cells[s]!).height) / largest"
              :rx="(92 * boxOf(r.cells[s]!).corner) / largest"
            />
          </svg>
          <span v-else-if="!r.cells[s]?.now_mm2" class="open" aria-hidden="true">·</span>
          <span class="said mono">
            <b :class="{ reached: r.cells[s]?.short === 'on', doubt: r.cells[s]?.marks.length }">{{
              r.cells[s]?.short || (r.cells[s]?.now_mm2 ? r.cells[s]?.now_mm2?.toFixed(0) : '')
            }}</b>
            <span :class="{ doubt: r.cells[s]?.walls.some((w) => w.reckoned) || r.cells[s]?.stop }">{{
              r.cells[s]?.stop ? 'stop' : (r.cells[s]?.thinnest?.text ?? '')
            }}</span>
          </span>
        </button>
      </div>
    </div>
    <figure v-if="plate && here" class="plate">
      <svg
        :viewBox="`0 0 ${WIDE} ${row * places.length + 30}`"
        :width="WIDE"
        role="img"
        aria-label="Area along the runner"
      >
        <g transform="translate(0,30)">
          <g v-for="t in x.ticks(3)" :key="t" class="tick">
            <line :x1="x(t)" y1="0" :x2="x(t)" :y2="row * places.length" />
            <text :x="x(t)" y="-8">{{ t }}</text>
          </g>
          <polyline
            v-for="r in runners.filter((o) => o !== here)"
            :key="r.number"
            class="other"
            :points="line((c) => c.now_mm2, r.cells)"
          />
          <polyline class="before" :points="line((c) => c.before_mm2, here.cells)" />
          <polyline class="wanted" :points="line((c) => c.wanted_mm2, here.cells)" />
          <polyline class="now" :points="line((c) => c.now_mm2, here.cells)" />
          <circle v-if="active?.now_mm2 != null" :cx="x(active.now_mm2)" :cy="y(station)" r="5.5" />
        </g>
      </svg>
      <figcaption class="narrow">
        <span class="k-now">runner {{ here.number }}</span> <span class="k-wanted">target</span>
        <span class="k-before">as received</span>
      </figcaption>
    </figure>
  </div>
</template>

<style scoped>
.unrolled {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 150px;
  gap: 6px;
}
.grid {
  overflow-x: auto;
}
.line {
  display: grid;
  grid-template-columns: 42px repeat(v-bind('runners.length'), minmax(v-bind('narrow'), 1fr));
  border-bottom: 1px solid var(--hair);
}
.heads {
  height: 30px;
  align-items: stretch;
}
.mm,
.place {
  align-self: center;
  color: var(--quiet);
  font-size: 14px;
}
.number {
  font-weight: 600;
  font-size: 18px;
  padding-left: 8px;
}
.number.on,
.number.lit {
  color: var(--dye);
  background: var(--dye-wash);
}
.number i {
  font-style: normal;
  color: var(--cut);
}
.cell {
  display: flex;
  min-width: 0;
  align-items: center;
  gap: 4px;
  padding: 0 0 0 2px;
  border: 2px solid transparent;
  background: none;
  cursor: pointer;
  text-align: left;
}
.cell.on {
  background: var(--dye-wash);
}
.cell.here {
  border-color: var(--dye);
}
.cell svg {
  flex: none;
}
rect,
.cell path {
  fill: var(--sheet);
  stroke: var(--ink);
}
rect {
  stroke-width: 4;
}
rect.cut,
path.cut {
  stroke: var(--cut);
  fill: none;
}
.open {
  width: 20px;
  text-align: center;
  color: var(--quiet);
}
.said {
  display: grid;
  font-size: 13px;
  line-height: 1.3;
  color: var(--quiet);
}
.said b {
  font-weight: 600;
  color: var(--ink);
}
.said b.reached {
  color: var(--cut);
}
.said .doubt,
.said b.doubt {
  color: var(--doubt);
}
.plate {
  margin: 0;
}
.plate svg {
  display: block;
}
.tick line {
  stroke: var(--faint);
}
.tick text {
  font: 500 13px var(--mono);
  fill: var(--quiet);
  text-anchor: middle;
}
polyline {
  fill: none;
  stroke-width: 2.5;
}
.other {
  stroke: var(--hair);
  stroke-width: 1.2;
}
.before {
  stroke: var(--ink);
  stroke-width: 1.5;
  stroke-dasharray: 2 4;
}
.wanted {
  stroke: var(--cut);
  stroke-dasharray: 7 4;
}
.now {
  stroke: var(--dye);
}
circle {
  fill: var(--sheet);
  stroke: var(--dye);
  stroke-width: 2;
}
figcaption {
  display: flex;
  flex-wrap: wrap;
  gap: 0 10px;
  font-size: 14px;
}
.k-now {
  color: var(--dye);
}
.k-wanted {
  color: var(--cut);
}
.k-before {
  color: var(--quiet);
}
</style>
