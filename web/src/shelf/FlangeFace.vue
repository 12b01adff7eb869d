<script setup lang="ts">
/** A face of a part, face-on and to its own scale: opening, bolts, ports; what isn't known is drawn dashed. */
import { computed } from 'vue'
import type { Schemas } from '@/api/client'

const props = defineProps<{ flange: Schemas['DrawnFlange']; width: number; height: number }>()
const f = computed(() => props.flange)
const ports = computed(() => Math.max(1, f.value.ports ?? 0))
const opening = computed(() => f.value.opening_mm ?? 60)
const pitch = computed(() => f.value.pitch_mm ?? opening.value * 1.9)
/** mm across and along of all that is drawn. */
const size = computed(() => {
  const across =
    Math.max((f.value.across_mm ?? 0) * 1.25, opening.value * 1.5) + (ports.value - 1) * pitch.value
  const along = Math.max((f.value.along_mm ?? 0) * 1.25, opening.value * 1.5)
  return { across, along }
})
const scale = computed(() =>
  Math.min((props.width - 8) / size.value.across, (props.height - 40) / size.value.along),
)
const cx = computed(() => props.width / 2)
const cy = computed(() => 6 + (size.value.along * scale.value) / 2)
const holes = computed(() => {
  const count = f.value.bolt_count ?? 0
  const [a, b] = [f.value.across_mm ?? opening.value * 1.35, f.value.along_mm ?? opening.value * 1.1]
  if (count === 4)
    return [
      [-a, -b],
      [a, -b],
      [a, b],
      [-a, b],
    ].map(([x, y]) => [x! / 2, y! / 2])
  return Array.from({ length: count }, (_, i) => {
    const turn = (2 * Math.PI * i) / count - Math.PI / 2
    return [(a / 2) * Math.cos(turn), (b / 2) * Math.sin(turn)]
  })
})
const centres = computed(() =>
  Array.from({ length: ports.value }, (_, i) => (i - (ports.value - 1) / 2) * pitch.value * scale.value),
)
const words = computed(() =>
  [
    f.value.end,
    f.value.bolt_count
      ? `${f.value.bolt_count} bolts`
      : f.value.outside_mm
        ? `spigot ${f.value.outside_mm} mm`
        : '',
    f.value.across_mm ? `${f.value.across_mm} × ${f.value.along_mm} mm` : '',
    f.value.ports ? `${f.value.ports} ports${f.value.pitch_mm ? `, ${f.value.pitch_mm} mm apart` : ''}` : '',
  ]
    .filter(Boolean)
    .join(' · '),
)
</script>

<template>
  <svg :viewBox="`0 0 ${width} ${height}`" :width="width" :height="height" role="img" :aria-label="words">
    <rect
      class="face"
      :class="{ open: !flange.bolt_count && !flange.outside_mm && !flange.ports }"
      :x="cx - (size.across * scale) / 2"
      :y="cy - (size.along * scale) / 2"
      :width="size.across * scale"
      :height="size.along * scale"
      :rx="flange.outside_mm ? (size.along * scale) / 2 : 10"
    />
    <g v-for="(x, i) in centres" :key="i">
      <circle
        class="opening"
        :class="{ open: flange.opening_mm == null }"
        :cx="cx + x"
        :cy="cy"
        :r="(opening / 2) * scale"
      />
      <text v-if="ports > 1" :x="cx + x" :y="cy + 5" text-anchor="middle">{{ i + 1 }}</text>
      <text v-else-if="flange.opening_mm != null" :x="cx + x" :y="cy + 5" text-anchor="middle">
        {{ flange.opening_mm }}
      </text>
    </g>
    <circle
      v-for="(h, i) in holes"
      :key="`h${i}`"
      class="bolt"
      :cx="cx + h[0]! * scale"
      :cy="cy + h[1]! * scale"
      r="4"
    />
    <text class="words" :x="cx" :y="height - 6" text-anchor="middle">{{ words }}</text>
  </svg>
</template>

<style scoped>
svg {
  display: block;
}
.face {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.6;
}
.opening,
.bolt {
  fill: var(--ground);
  stroke: var(--ink);
  stroke-width: 1.6;
}
.open {
  stroke-dasharray: 5 4;
}
text {
  font: 600 14px var(--mono);
  fill: var(--ink);
}
.words {
  font: 500 14px var(--narrow);
  fill: var(--quiet);
}
</style>
