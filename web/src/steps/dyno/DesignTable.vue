<script setup lang="ts">
/** Every design over every use: what it makes more than the reference on average. Framed: best for this use. */
import { dashOf, hueOf } from '@/charts/designLines'
import KeyCap from '@/frame/KeyCap.vue'
import { useLit } from '@/ui/lit'
import type { Schemas } from '@/api/client'

const props = defineProps<{
  table: Schemas['Table']
  designs: Schemas['DesignView'][]
  hidden: string[]
  chosen: string | undefined
  percent: boolean
}>()
const emit = defineEmits<{ use: [name: string]; choose: [id: string] }>()

const lit = useLit()
const design = (id: string) => props.designs.find((d) => d.build_id === id)
const figure = (c: Schemas['CellView']) => (!c.word ? '0' : props.percent ? c.percent : c.figure.text)
const toneOf = (c: Schemas['CellView']) => ({
  best: c.best,
  unsure: !c.real && c.word !== '',
  loss: c.real && c.figure.value < 0,
})
const meaning = (c: Schemas['CellView']) =>
  c.word ? `${c.word}, ±${c.half_width.text} ${c.half_width.unit}` : 'reference'
</script>

<template>
  <div>
    <table class="designs">
      <thead>
        <tr>
          <th class="narrow">Average against {{ table.rows[0]?.name }}, {{ percent ? '%' : table.unit }}</th>
          <th v-for="(u, i) in table.uses" :key="u.name" :class="{ chosen: u.chosen }">
            <button type="button" class="plain-button" :aria-pressed="u.chosen" @click="emit('use', u.name)">
              <KeyCap :k="String(i + 1)" /> {{ u.name }}
              <span class="band mono">{{ u.low_rpm.toFixed(0) }}–{{ u.high_rpm.toFixed(0) }}</span>
            </button>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="r in table.rows"
          :key="r.build_id"
          :class="{ marked: r.build_id === chosen, off: hidden.includes(r.build_id) }"
        >
          <th scope="row">
            <button type="button" class="plain-button name" @click="emit('choose', r.build_id)">
              <svg width="30" height="10" aria-hidden="true">
                <line
                  x1="0"
                  x2="30"
                  y1="5"
                  y2="5"
                  :style="{ stroke: hueOf(design(r.build_id)?.hue) }"
                  :stroke-dasharray="dashOf(design(r.build_id)?.dash)"
                />
              </svg>
              {{ r.name }}
              <span class="quiet narrow">{{ r.pulls }} {{ r.pulls === 1 ? 'pull' : 'pulls' }}</span>
            </button>
          </th>
          <td v-if="r.unlike" :colspan="table.uses.length" class="harm narrow">{{ r.unlike }}</td>
          <template v-else>
            <td
              v-for="(c, i) in r.cells"
              :key="i"
              class="mono"
              :class="{
                chosen: table.uses[i]?.chosen,
                lit: table.uses[i]?.chosen && lit === `cell-${r.build_id}`,
              }"
            >
              <span v-if="c" :class="toneOf(c)" :title="meaning(c)"
                >{{ figure(c) }}<sup v-if="c.partly">*</sup></span
              >
              <span v-else class="quiet narrow">{{ r.is_reference ? '–' : 'not pulled' }}</span>
            </td>
          </template>
        </tr>
      </tbody>
    </table>
    <p v-if="table.rows.some((r) => r.cells.some((c) => c?.partly))" class="quiet narrow">
      * not all of the band was pulled
    </p>
  </div>
</template>

<style scoped>
.designs {
  border-collapse: collapse;
  width: 100%;
}
th {
  text-align: left;
  font-weight: 500;
}
thead th {
  font-size: 15px;
  vertical-align: bottom;
}
thead th:not(:first-child),
td {
  text-align: right;
  padding: 1px 8px;
}
.band {
  display: block;
  font-size: 13px;
  color: var(--quiet);
}
tbody tr {
  border-top: 1px solid var(--hair);
}
.chosen {
  background: var(--dye-wash);
}
thead .chosen button {
  color: var(--dye);
  font-weight: 600;
}
td.mono span {
  display: inline-block;
  min-width: 54px;
  padding: 0 6px;
  border: 2px solid transparent;
  font-weight: 600;
}
td.mono .best {
  border-color: var(--ink);
}
p {
  margin: 2px 0 0;
}
sup {
  line-height: 0;
}
td.lit {
  outline: 2px solid var(--dye);
}
td .unsure {
  color: var(--doubt);
  font-weight: 500;
}
td .loss {
  color: var(--quiet);
}
.name {
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 2px 0;
  text-align: left;
}
.name line {
  stroke-width: 2.4;
}
.marked .name {
  font-weight: 700;
}
.off {
  opacity: 0.45;
}
</style>
