<script setup lang="ts">
/** Manifolds by throttles: what each gives over the chosen use, what a throttle adds, and the cell still to be pulled. */
import { hueOf } from '@/charts/designLines'
import type { Schemas } from '@/api/client'

const props = defineProps<{
  matrix: Schemas['MatrixView']
  designs: Schemas['DesignView'][]
  chosen: string | undefined
  use: string
  unit: string
  percent: boolean
}>()
const emit = defineEmits<{ choose: [id: string] }>()
const hue = (row: Schemas['MatrixRow']) => {
  const id = row.cells.find((c) => c.build_id)?.build_id
  return hueOf(props.designs.find((d) => d.build_id === id)?.hue)
}
const figure = (c: Schemas['CellView']) => (!c.word ? '0' : props.percent ? c.percent : c.figure.text)
const meaning = (c: Schemas['CellView']) =>
  c.word ? `${c.word}, ±${c.half_width.text} ${c.half_width.unit}` : ''
</script>

<template>
  <table class="matrix">
    <thead>
      <tr>
        <th class="narrow">Each change: {{ use }}, {{ percent ? '%' : unit }}</th>
        <th v-for="t in matrix.throttles" :key="t" class="narrow">{{ t }}</th>
        <th v-for="t in matrix.throttles.slice(1)" :key="`a${t}`" class="narrow quiet">{{ t }} adds</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="r in matrix.rows" :key="r.name">
        <th scope="row">{{ r.name }}</th>
        <td
          v-for="(c, i) in r.cells"
          :key="i"
          class="mono"
          :class="{ marked: c.build_id && c.build_id === chosen }"
        >
          <span v-if="c.empty" class="empty narrow">{{ c.empty }}</span>
          <button
            v-else-if="c.figure && c.build_id"
            type="button"
            class="plain-button"
            :style="{ color: hue(r) }"
            :title="meaning(c.figure)"
            @click="emit('choose', c.build_id)"
          >
            {{ figure(c.figure) }}
          </button>
          <span v-else class="quiet narrow">not comparable</span>
        </td>
        <td v-for="(a, i) in r.adds" :key="`a${i}`" class="mono quiet">
          <span v-if="a" :class="{ unsure: !a.real }" :title="meaning(a)">{{ figure(a) }}</span>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.matrix {
  border-collapse: collapse;
  width: 100%;
}
th {
  text-align: left;
  font-weight: 500;
}
thead th {
  vertical-align: bottom;
}
tbody tr {
  border-top: 1px solid var(--hair);
}
td {
  padding: 3px 8px;
  text-align: right;
  font-weight: 600;
}
thead th:not(:first-child) {
  padding: 0 8px;
  text-align: right;
}
td.marked {
  background: var(--dye-wash);
}
.empty {
  display: inline-block;
  padding: 0 6px;
  font-size: 15px;
  white-space: nowrap;
  border: 2px dashed var(--doubt);
  color: var(--doubt);
  font-weight: 500;
}
.unsure {
  color: var(--doubt);
  font-weight: 500;
}
</style>
