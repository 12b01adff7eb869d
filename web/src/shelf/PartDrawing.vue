<script setup lang="ts">
/**
 * A part in half-section to scale, its dimensions as callouts to type into; a manifold by its plenum and the runner that
 * is chosen, with all runners below. What nobody measured is dashed.
 */
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { useWidth } from '@/ui/useWidth'
import CallOut from './CallOut.vue'
import FlangeFace from './FlangeFace.vue'

const props = defineProps<{ drawn: Schemas['DrawnPart']; kind: string; chosen: number; flowUnit: string }>()
const emit = defineEmits<{ measure: [quantity: string, typed: string]; choose: [cylinder: number] }>()
const box = ref<HTMLElement>()
const width = useWidth(box, 640, 320)
const HEIGHT = 268
const MIDDLE = 134
const BOX = 118

const manifold = computed(() => props.kind === 'manifold')
const of = computed(() => new Map(props.drawn.callouts.map((c) => [c.quantity, c])))
const runner = computed(() => props.drawn.runners.find((r) => r.cylinder === props.chosen))
const bore = computed(() => (manifold.value ? runner.value?.bore_mm : of.value.get('bore')?.measured) ?? null)
const boreOut = computed(
  () => (manifold.value ? runner.value?.bore_out_mm : of.value.get('bore_out')?.measured) ?? null,
)
const length = computed(
  () => (manifold.value ? runner.value?.length_mm : of.value.get('length')?.measured) ?? null,
)
const shaft = computed(() => of.value.get('shaft')?.measured ?? null)
/** As it is drawn: what isn't known has the shape that is usual. */
const size = computed(() => {
  const from = bore.value ?? boreOut.value ?? (manifold.value ? 42 : 70)
  const usual = manifold.value ? from * 6 : props.kind === 'throttle' ? from * 0.9 : from * 2
  return { from, to: boreOut.value ?? from, long: length.value ?? usual }
})
const left = computed(() => (manifold.value ? BOX + 76 : 84))
const faces = computed(() => (props.drawn.flanges.length ? Math.min(290, width.value * 0.36) : 0))
const scale = computed(() =>
  Math.min(
    (width.value - faces.value - left.value - 70) / size.value.long,
    104 / Math.max(size.value.from, size.value.to),
  ),
)
const x1 = computed(() => left.value + size.value.long * scale.value)
const half = (mm: number) => (mm / 2) * scale.value
const walls = computed(() => {
  const [a, b] = [half(size.value.from), half(size.value.to)]
  return [
    `M${left.value},${MIDDLE - a}L${x1.value},${MIDDLE - b}`,
    `M${left.value},${MIDDLE + a}L${x1.value},${MIDDLE + b}`,
  ]
})
const known = computed(() => bore.value != null)
const opening = computed(() => of.value.get('opening')?.measured ?? null)
const most = computed(() => Math.max(1, ...props.drawn.runners.map((r) => r.flow?.value ?? 0)))
const least = computed(() => Math.min(...props.drawn.runners.map((r) => r.flow?.value ?? Infinity)))
/** Where a runner's flow stands between the least and the most, a tenth of room at both ends. */
const at = (flow: number) => 10 + (80 * (flow - least.value)) / Math.max(1e-9, most.value - least.value)
const text = (v: number | null) => (v == null ? '–' : v.toFixed(1))
</script>

<template>
  <div ref="box" class="drawing">
    <div class="section" :style="{ height: `${HEIGHT}px` }">
      <svg
        :viewBox="`0 0 ${width} ${HEIGHT}`"
        :width="width"
        :height="HEIGHT"
        role="img"
        :aria-label="`${kind}, half-section to scale`"
      >
        <line class="axis" :x1="8" :x2="x1 + 26" :y1="MIDDLE" :y2="MIDDLE" />
        <template v-if="manifold">
          <rect
            class="wall"
            :class="{ open: of.get('volume')?.measured == null }"
            x="70"
            :y="MIDDLE - 62"
            :width="BOX"
            height="124"
            rx="18"
          />
          <line
            class="wall"
            :class="{ open: opening == null }"
            x1="70"
            x2="70"
            :y1="MIDDLE - half(opening ?? 70)"
            :y2="MIDDLE + half(opening ?? 70)"
            stroke-width="4"
          />
        </template>
        <path v-for="d in walls" :key="d" class="wall" :class="{ open: !known }" :d="d" />
        <path class="end" :d="`M${x1},${MIDDLE - half(size.to) - 12}V${MIDDLE + half(size.to) + 12}`" />
        <path
          v-if="!manifold"
          class="end"
          :d="`M${left},${MIDDLE - half(size.from) - 12}V${MIDDLE + half(size.from) + 12}`"
        />
        <template v-if="kind === 'throttle'">
          <line
            class="wall"
            :x1="left + half(size.long) - half(size.from) * 0.62"
            :x2="left + half(size.long) + half(size.from) * 0.62"
            :y1="MIDDLE"
            :y2="MIDDLE"
          />
          <circle
            class="wall"
            :class="{ open: shaft == null }"
            :cx="left + half(size.long)"
            :cy="MIDDLE"
            :r="Math.max(3, half(shaft ?? 9))"
          />
        </template>
        <path
          class="measure"
          :d="`M${left},${MIDDLE + 82}H${x1}M${left},${MIDDLE + 76}v12M${x1},${MIDDLE + 76}v12`"
        />
      </svg>
      <CallOut
        v-if="manifold"
        label="Opening"
        unit="mm"
        :value="opening"
        :x="34"
        :y="MIDDLE - 84"
        @measure="(t) => emit('measure', 'opening', t)"
      />
      <CallOut
        v-if="manifold"
        label="Plenum"
        unit="L"
        :value="of.get('volume')?.measured ?? null"
        :advertised="of.get('volume')?.advertised ?? null"
        :x="70 + BOX / 2"
        :y="MIDDLE + 80"
        @measure="(t) => emit('measure', 'volume', /[a-z]/i.test(t) ? t : `${t} L`)"
      />
      <CallOut
        :label="manifold ? `Entry, runner ${chosen}` : 'Bore'"
        unit="mm"
        :value="bore"
        :advertised="of.get('bore')?.advertised ?? null"
        :x="left + 6"
        :y="2"
        @measure="(t) => emit('measure', 'bore', t)"
      />
      <CallOut
        v-if="kind !== 'throttle'"
        :label="manifold ? 'At the flange' : 'Outlet bore'"
        unit="mm"
        :value="boreOut"
        :advertised="of.get('bore_out')?.advertised ?? null"
        :x="Math.max(left + 120, x1 - 6)"
        :y="2"
        @measure="(t) => emit('measure', 'bore_out', t)"
      />
      <CallOut
        v-else
        label="Shaft"
        unit="mm"
        :value="shaft"
        :x="left + half(size.long) + 96"
        :y="2"
        @measure="(t) => emit('measure', 'shaft', t)"
      />
      <CallOut
        label="Length"
        unit="mm"
        :value="length"
        :advertised="of.get('length')?.advertised ?? null"
        :x="(left + x1) / 2"
        :y="MIDDLE + 92"
        @measure="(t) => emit('measure', 'length', t)"
      />
      <CallOut
        v-if="of.has('entry_radius')"
        label="Entry radius"
        unit="mm"
        :value="of.get('entry_radius')?.measured ?? null"
        :x="42"
        :y="MIDDLE + 60"
        @measure="(t) => emit('measure', 'entry_radius', t)"
      />
      <div class="faces" :style="{ width: `${faces}px` }">
        <FlangeFace
          v-for="f in drawn.flanges"
          :key="f.end"
          :flange="f"
          :width="faces"
          :height="drawn.flanges.length > 1 ? 122 : 200"
        />
      </div>
    </div>
    <table v-if="drawn.runners.length" class="runners">
      <thead class="narrow quiet">
        <tr>
          <th>runner</th>
          <th>half-section, entry left</th>
          <th class="n">entry</th>
          <th class="n">flange</th>
          <th class="n">length</th>
          <th class="n">flow, {{ flowUnit }}</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="r in drawn.runners"
          :key="r.cylinder"
          :class="{ on: r.cylinder === chosen }"
          @click="emit('choose', r.cylinder)"
        >
          <th scope="row" class="mono">{{ r.cylinder }}</th>
          <td class="profile">
            <svg viewBox="0 0 200 26" preserveAspectRatio="none" height="26" width="100%" aria-hidden="true">
              <path
                class="wall"
                :class="{ open: r.bore_mm == null }"
                :d="`M2,${13 - (r.bore_mm ?? size.from) * 0.22}L198,${13 - (r.bore_out_mm ?? r.bore_mm ?? size.to) * 0.22}M2,${13 + (r.bore_mm ?? size.from) * 0.22}L198,${13 + (r.bore_out_mm ?? r.bore_mm ?? size.to) * 0.22}`"
              />
            </svg>
          </td>
          <td class="n mono">{{ text(r.bore_mm) }}</td>
          <td class="n mono">{{ text(r.bore_out_mm) }}</td>
          <td class="n mono">{{ text(r.length_mm) }}</td>
          <td class="n mono" :class="{ doubt: r.low }">
            <span v-if="r.flow" class="dot-line" aria-hidden="true"
              ><i :style="{ left: `${at(r.flow.value)}%` }"
            /></span>
            {{ r.low ? 'low ' : '' }}{{ r.flow?.text ?? '–' }}
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="drawn.not_checked.length" class="narrow unchecked">
      <strong class="doubt">Not checked</strong> <span class="quiet">never stated, so never “fits”:</span>
      {{ drawn.not_checked.join(' · ') }}
    </p>
  </div>
</template>

<style scoped>
.section {
  position: relative;
}
svg {
  display: block;
}
.wall {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.open {
  stroke-dasharray: 6 4;
  stroke: var(--quiet);
}
.end {
  stroke: var(--ink);
  stroke-width: 3;
}
.axis {
  stroke: var(--hair);
  stroke-dasharray: 10 4 2 4;
}
.measure {
  fill: none;
  stroke: var(--quiet);
}
.faces {
  position: absolute;
  top: 0;
  right: 0;
  display: grid;
  gap: 4px;
}
.runners {
  width: 100%;
  border-collapse: collapse;
}
.runners th,
.runners td {
  padding: 1px 8px;
  border-bottom: 1px solid var(--faint);
  text-align: left;
  font-weight: 500;
}
.runners tbody tr {
  cursor: pointer;
}
.runners .on {
  background: var(--dye-wash);
  box-shadow: inset 3px 0 0 var(--dye);
}
.runners .n {
  text-align: right;
  white-space: nowrap;
}
.profile {
  width: 38%;
}
.dot-line {
  position: relative;
  display: inline-block;
  width: 84px;
  height: 10px;
  margin-right: 8px;
  border-bottom: 1px solid var(--hair);
}
.dot-line i {
  position: absolute;
  bottom: -6px;
  width: 9px;
  height: 9px;
  border: 2px solid currentColor;
  border-radius: 50%;
  background: var(--ground);
}
.unchecked {
  padding: 8px 0;
}
</style>
