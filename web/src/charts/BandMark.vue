<script setup lang="ts">
/** The band that is judged, drawn into a plate: even, or by where the time of the use goes. */
import type { ScaleLinear } from 'd3-scale'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'

const props = defineProps<{
  x: ScaleLinear<number, number>
  span: [number, number]
  band: [number, number]
  words: string
  shares: Schemas['ShareView'][]
  top: number
  bottom: number
  /** Where the shares stand. */
  ground: number
}>()
const HIGH = 46
const inside = (speed: number) => props.x(Math.max(props.span[0], Math.min(props.span[1], speed)))
const left = computed(() => inside(props.band[0]))
const wide = (from: number, to: number) => Math.max(0, inside(to) - inside(from))
</script>

<template>
  <g>
    <rect
      v-for="h in shares"
      :key="h.low_rpm"
      class="share"
      :x="inside(h.low_rpm)"
      :width="wide(h.low_rpm, h.high_rpm)"
      :y="ground - HIGH * h.share"
      :height="HIGH * h.share"
    />
    <text v-if="shares.length" class="share-words" :x="left + 6" :y="ground - 8">where its time goes</text>
    <rect
      class="band"
      :class="{ weighted: shares.length }"
      :x="left"
      :width="wide(...band)"
      :y="top - 4"
      :height="bottom - top + 4"
    />
    <text class="band-words" :x="left + 6" :y="top + 12">{{ words }}</text>
  </g>
</template>

<style scoped>
.band {
  fill: var(--dye-wash);
  stroke: var(--dye);
  stroke-opacity: 0.35;
}
.band.weighted {
  fill: none;
}
.share-words {
  font: 500 13px var(--narrow);
  fill: var(--dye);
}
.share {
  fill: var(--dye);
  fill-opacity: 0.16;
}
.band-words {
  font: 500 14px var(--narrow);
  fill: var(--dye);
}
</style>
