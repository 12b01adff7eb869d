<script setup lang="ts">
/** The runners on the sheet: figures, their ladder from before to after, and the averages under them. */
import type { Schemas } from '@/api/client'

defineProps<{
  sheet: Pick<Schemas['FlowSheet'], 'rows' | 'means' | 'unit' | 'spread_before' | 'spread_after'>
}>()
type Row = Schemas['SheetRow']
const at = (place: number) => ({ left: `calc(${place * 100}% - 5px)` })
const between = (r: Row) => {
  const [before, after] = [r.at_before ?? 0, r.at_after ?? 0]
  return { left: `${Math.min(before, after) * 100}%`, width: `${Math.abs(after - before) * 100}%` }
}
</script>

<template>
  <table class="runners">
    <thead>
      <tr class="narrow">
        <th>Runner</th>
        <th>Before</th>
        <th>After</th>
        <th>Gain</th>
        <th>±</th>
        <th>%</th>
        <th class="ladder" />
        <th>Readings</th>
        <th />
      </tr>
    </thead>
    <tbody>
      <tr v-for="r in sheet.rows" :key="r.runner">
        <td class="runner">{{ r.runner }}</td>
        <td class="mono">{{ r.before }}</td>
        <td class="mono after">{{ r.after }}</td>
        <td class="mono">{{ r.gain }}</td>
        <td class="mono">{{ r.half_width }}</td>
        <td class="narrow">{{ r.percent }}</td>
        <td class="ladder">
          <span>
            <i
              v-if="r.gain && r.at_before != null && r.at_after != null"
              class="between"
              :style="between(r)"
            />
            <i v-if="r.at_before != null" class="dot open" :style="at(r.at_before)" />
            <i v-if="r.at_after != null" class="dot" :style="at(r.at_after)" />
          </span>
        </td>
        <td class="narrow">{{ r.refits }}</td>
        <td class="narrow judgement">{{ r.judgement }}</td>
      </tr>
    </tbody>
    <tfoot>
      <tr v-for="r in sheet.means" :key="r.runner">
        <td class="runner">{{ r.runner }}</td>
        <td class="mono">{{ r.before }}</td>
        <td class="mono after">{{ r.after }}</td>
        <td class="mono">{{ r.gain }}</td>
        <td class="mono">{{ r.half_width }}</td>
        <td class="narrow">{{ r.percent }}</td>
        <td class="narrow ladder">
          <template v-if="r.runner === 'Average' && sheet.spread_before">
            spread {{ sheet.spread_before
            }}<template v-if="sheet.spread_after">, after {{ sheet.spread_after }}</template>
          </template>
        </td>
        <td />
        <td class="narrow judgement">{{ r.judgement }}</td>
      </tr>
    </tfoot>
  </table>
  <p class="narrow note">All in {{ sheet.unit }}. Readings: before / after, each refitted.</p>
</template>

<style scoped>
.runners {
  width: 100%;
  border-collapse: collapse;
}
th,
td {
  padding: 2px 6px;
  text-align: right;
  font-weight: 400;
}
td.narrow:not(.judgement):not(.ladder) {
  white-space: nowrap;
}
thead th {
  border-block: 1px solid #c4cacf;
  color: #5a6570;
}
tfoot td {
  border-top: 1px solid #c4cacf;
}
th:first-child,
.runner,
.judgement,
.ladder {
  text-align: left;
}
.runner {
  font-weight: 600;
}
.after {
  color: #b4551d;
}
.judgement {
  max-width: 190px;
}
.ladder {
  width: 26%;
}
.ladder > span {
  position: relative;
  display: block;
  height: 14px;
}
.ladder i {
  position: absolute;
}
.dot {
  top: 2px;
  width: 10px;
  height: 10px;
  border-radius: 50%;
  background: #b4551d;
}
.dot.open {
  border: 2px solid #16202a;
  background: #fff;
}
.between {
  top: 6px;
  height: 2px;
  background: #b4551d;
}
.note {
  margin: 4px 0 0;
  font-size: 13px;
  color: #5a6570;
}
</style>
