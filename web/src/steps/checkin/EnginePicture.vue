<script setup lang="ts">
/** The engine that hangs on the path: its cylinders to scale by bank, numbered, pistons where the firing order puts them. */
import { computed, ref } from 'vue'
import { useWidth } from '@/ui/useWidth'

const props = defineProps<{
  cylinders: number
  /** Cylinders of each bank. */
  banks: number[][]
  /** mm; what is not known is drawn open, as a square engine. */
  bore: number | null
  stroke: number | null
  order: number[]
}>()
const box = ref<HTMLElement>()
const width = useWidth(box, 400, 160)
const HEIGHT = 132
const ROOM = 22
const known = computed(() => props.bore != null && props.stroke != null)
const ratio = computed(() => (known.value ? Math.min(2, Math.max(0.5, props.stroke! / props.bore!)) : 1))
const perBank = computed(() => Math.max(1, ...props.banks.map((b) => b.length)))
/** Width of one bore in the picture: as many as a bank has, two banks side by side. */
const one = computed(() => {
  const across = width.value / (perBank.value * props.banks.length + (props.banks.length - 1) * 0.8)
  return Math.min(across * 0.82, (HEIGHT - ROOM - 26) / ratio.value, 46)
})
const tall = computed(() => one.value * ratio.value)
const height = computed(() => 14 + tall.value + one.value * 0.42 + 22)
/** How far each piston stands below top, 0 to 1: evenly through the cycle in the order of firing. */
function below(cylinder: number): number {
  const at = props.order.indexOf(cylinder)
  const turn = at < 0 ? cylinder / props.cylinders : at / props.order.length
  return (1 - Math.cos(turn * 4 * Math.PI)) / 2
}
const drawn = computed(() =>
  props.banks.flatMap((bank, b) =>
    bank.map((cylinder, i) => {
      const pitch = one.value / 0.82
      const x = (b * (perBank.value + 0.8) + i) * pitch
      return { cylinder, x, y: 14 + below(cylinder) * tall.value }
    }),
  ),
)
</script>

<template>
  <div ref="box">
    <svg
      :viewBox="`-1 0 ${width} ${height}`"
      :width="width"
      :height="height"
      role="img"
      :aria-label="`${cylinders} cylinders${known ? `, ${bore} by ${stroke} mm` : ''}`"
    >
      <g v-for="c in drawn" :key="c.cylinder">
        <path
          :class="{ open: !known }"
          class="wall"
          :d="`M${c.x},${14 + tall + one * 0.42}V14h${one}V${14 + tall + one * 0.42}`"
        />
        <rect class="piston" :x="c.x + 2" :y="c.y + 2" :width="one - 4" :height="one * 0.34" />
        <text :x="c.x + one / 2" :y="14 + tall + one * 0.42 + 17" text-anchor="middle">{{ c.cylinder }}</text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
svg {
  display: block;
}
.wall,
.piston {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
}
.piston {
  fill: var(--sheet);
  stroke-width: 1.2;
}
.wall.open {
  stroke-dasharray: 5 4;
}
text {
  font: 600 14px var(--narrow);
  fill: var(--ink);
}
</style>
