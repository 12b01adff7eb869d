<script setup lang="ts">
/** The pieces of an assembly from the entry on, each at its own stage; the one that is looked at stands out. */
import type { Schemas } from '@/api/client'

defineProps<{ pieces: Schemas['PieceView'][]; place: number }>()
const holds = (p: Schemas['PieceView'], place: number) =>
  p.from_mm != null && p.to_mm != null && (p.from_mm < place || place === 0) && place <= p.to_mm
</script>

<template>
  <p class="pieces narrow" aria-label="Pieces">
    <span v-for="p in pieces" :key="p.part_id" :class="{ here: holds(p, place), work: p.in_work }">
      <b>{{ p.role }}</b>
      {{ p.to_mm == null ? '' : `${p.from_mm} to ${p.to_mm} mm · ` }}{{ p.state
      }}{{ p.in_work ? ', in work' : '' }}
    </span>
  </p>
</template>

<style scoped>
.pieces {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
  padding: 4px 0 8px;
}
.pieces span {
  padding: 2px 8px;
  border-left: 3px solid var(--hair);
}
.pieces .work {
  color: var(--cut);
}
.pieces .here {
  border-color: var(--dye);
  background: var(--dye-wash);
}
</style>
