<script setup lang="ts">
/** The loss ledger: how the pressure loss divides over the elements, in the order of the air; the pinch is seen first. */
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import KeyCap from '@/frame/KeyCap.vue'
import GradeMark from '@/ui/GradeMark.vue'
import { useLit } from '@/ui/lit'

const props = defineProps<{ solution: Schemas['Solution']; selected?: string }>()
const emit = defineEmits<{ select: [nodeId: string]; turn: [] }>()
const lit = useLit()
const most = computed(() => Math.max(1, ...props.solution.rows.map((r) => r.share_percent ?? 0)))
const pinch = computed(() => {
  const shares = props.solution.rows.map((r) => r.share_percent ?? 0)
  /** One known loss alone is no pinch. */
  return shares.filter((s) => s > 0).length > 1 ? shares.indexOf(Math.max(...shares)) : -1
})
const each = (r: Schemas['LedgerRow']) => r.node_ids.length > 1
/** Two digits are what the loss model gives. */
const share = (p: number) => (p < 10 ? p.toFixed(1) : p.toFixed(0))
</script>

<template>
  <table class="ledger" aria-label="Loss ledger">
    <thead>
      <tr>
        <th scope="col">Component</th>
        <th scope="col" class="bar-head">
          share of pressure drop,
          <button v-if="solution.engine" type="button" class="plain-button turn" @click="emit('turn')">
            {{ solution.bench ? 'one port on the bench' : `at ${solution.rpm} rpm` }}
            <KeyCap k="X" />
          </button>
          <template v-else>one port on the bench</template>
        </th>
        <th scope="col" class="n" title="averaged over all the air that the engine draws">kPa, average</th>
        <th scope="col" class="n">{{ solution.rows.find((r) => r.flow)?.flow?.unit ?? 'flow' }}</th>
        <th scope="col" class="n">+1 mm bore: air</th>
      </tr>
    </thead>
    <tbody>
      <tr
        v-for="(r, i) in solution.rows"
        :key="r.label"
        :class="{
          on: selected && r.node_ids.includes(selected),
          lit: lit === `row-${r.label}`,
          changed: r.changed,
        }"
        @click="emit('select', r.node_ids[0] ?? '')"
      >
        <th scope="row">
          <button type="button" class="plain-button">{{ r.label }}</button>
        </th>
        <td class="bar-cell">
          <span
            v-if="r.share_percent != null"
            class="bar"
            :class="{ pinch: i === pinch, open: r.grade !== 'measured' }"
            :style="{ width: `${(r.share_percent / most) * 44}%` }"
          />
          <span class="share mono">{{ r.share_percent == null ? '' : `${share(r.share_percent)} %` }}</span>
          <span v-if="i === pinch" class="word">biggest</span>
          <em v-if="r.share_percent == null" class="quiet">{{ r.basis }}</em>
        </td>
        <td class="n mono">
          {{ r.drop?.text ?? '' }}
          <small v-if="r.met" class="quiet" title="met by the air that passes it"
            >{{ r.met.text }} its own</small
          >
        </td>
        <td class="n mono" :title="r.basis">
          <span v-if="r.flow" :class="{ guess: r.grade !== 'measured' }"
            >{{ r.flow.text }}<small v-if="each(r)"> each</small></span
          ><GradeMark v-if="r.grade" :grade="r.grade" />
        </td>
        <td class="n mono">
          {{
            r.gain_per_mm_percent && r.gain_per_mm_percent > 0.005
              ? `${r.gain_per_mm_percent.toFixed(2)} %`
              : ''
          }}
          <small v-if="r.bore_of_runner" class="quiet below" title="bore of the others not measured"
            >bore of {{ r.bore_of_runner }}</small
          >
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.ledger {
  width: 100%;
  border-collapse: collapse;
  table-layout: fixed;
}
th,
td {
  padding: 2px 8px 2px 0;
  border-bottom: 1px solid var(--faint);
  text-align: left;
  font-weight: 400;
  height: 26px;
}
thead th {
  font: 500 14px/1.2 var(--narrow);
  color: var(--quiet);
}
th:first-child {
  width: 92px;
}
.n {
  width: 74px;
  text-align: right;
  white-space: nowrap;
}
th.n:nth-child(4),
td.n:nth-child(4) {
  width: 128px;
}
.turn {
  color: var(--dye);
}
.bar-cell {
  white-space: nowrap;
}
.bar {
  display: inline-block;
  vertical-align: middle;
  height: 13px;
  min-width: 1px;
  background: var(--quiet);
}
.bar.pinch {
  background: var(--dye);
}
.bar.open {
  background: repeating-linear-gradient(45deg, var(--quiet) 0 2px, transparent 2px 5px);
  outline: 1px solid var(--quiet);
  outline-offset: -1px;
}
.bar.open.pinch {
  background: repeating-linear-gradient(45deg, var(--dye) 0 2px, transparent 2px 5px);
  outline-color: var(--dye);
}
.share {
  padding-left: 8px;
}
.word {
  padding-left: 8px;
  font: 600 14px var(--narrow);
  color: var(--dye);
}
tbody tr {
  cursor: pointer;
}
tr.on th,
tr.on td,
tr.lit td,
tr.lit th {
  background: var(--dye-wash);
}
tr.changed th {
  color: var(--cut);
}
.below {
  display: block;
}
.guess {
  font-style: italic;
  color: var(--quiet);
}
small {
  font: 500 13px var(--narrow);
  color: var(--quiet);
}
.grade {
  margin-left: 7px;
}
</style>
