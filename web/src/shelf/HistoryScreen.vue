<script setup lang="ts">
/** What was read of a part, or of every part of its casting, over the years and benches. */
import { watch } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { api, told } from '@/api/client'
import { useSheet } from '@/api/sheet'
import HistoryPlate from '@/charts/HistoryPlate.vue'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import { useLit } from '@/ui/lit'
import Margin from '@/ui/Margin.vue'
import { useSession } from '@/frame/session'
import ShopMark from '@/frame/ShopMark.vue'

const props = defineProps<{ partId: string }>()
const { units } = useSession()
const router = useRouter()
const lit = useLit()
const { sheet: history, failure } = useSheet(
  () =>
    told(
      api.GET('/api/parts/{part_id}/history', {
        params: { path: { part_id: props.partId }, query: { units: units.value } },
      }),
    ),
  [units, () => props.partId],
)
watch(history, (found) => (document.title = `${found?.title ?? ''} · Elvarn`))
const date = (iso: string) =>
  new Date(iso).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' })
useKeys([{ key: 'b', says: 'back', run: () => router.back() }])
</script>

<template>
  <div class="history">
    <nav class="rail">
      <RouterLink to="/" class="narrow quiet">◂ Board</RouterLink>
      <RouterLink to="/shelf" class="narrow quiet">Shelf</RouterLink>
      <button type="button" class="narrow back" @click="router.back()"><KeyCap k="B" /> back</button>
      <span class="space" />
      <ShopMark />
    </nav>
    <p v-if="failure" class="harm" role="alert">{{ failure }}</p>
    <div v-else-if="history" class="worktop">
      <section>
        <h1>{{ history.title }}<small v-if="history.casting"> all parts of this casting</small></h1>
        <HistoryPlate v-if="history.rows.length" :rows="history.rows" />
        <p v-if="history.rows.length" class="narrow quiet">
          ○ as received, <span class="cut">●</span> ported, ◇ other shop's bench (dotted: converted to ours)
        </p>
        <table v-if="history.rows.length">
          <thead>
            <tr>
              <th>Read</th>
              <th>Job</th>
              <th>State</th>
              <th>Set-up</th>
              <th>Bench</th>
              <th class="right">Average</th>
              <th class="right">On our bench</th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="(r, i) in history.rows"
              :key="i"
              tabindex="0"
              @mouseenter="lit = `row-${i}`"
              @mouseleave="lit = undefined"
              @focus="lit = `row-${i}`"
              @blur="lit = undefined"
            >
              <td>{{ date(r.at) }}</td>
              <td>
                <RouterLink v-if="r.job_id" :to="`/jobs/${r.job_id}/bench`">{{ r.job }}</RouterLink>
                <template v-else>{{ r.job }}</template>
              </td>
              <td>{{ r.state }}</td>
              <td>{{ r.setup }}, {{ r.ports }} port{{ r.ports > 1 ? 's' : '' }}</td>
              <td>{{ r.shop || r.bench }}</td>
              <td class="right mono">{{ r.mean.text }} {{ r.mean.unit }}</td>
              <td class="right mono">{{ r.ours ? `${r.ours.text} ${r.ours.unit}` : '' }}</td>
            </tr>
          </tbody>
        </table>
      </section>
      <Margin title="History notes" :sentences="history.margin" />
    </div>
  </div>
</template>

<style scoped>
.rail {
  display: flex;
  align-items: center;
  gap: 20px;
  min-height: 46px;
  padding: 0 24px;
  background: var(--sheet);
  border-bottom: 1px solid var(--hair);
}
.rail a {
  text-decoration: none;
}
.back {
  border: 0;
  background: none;
  cursor: pointer;
}
.space {
  flex: 1;
}
.worktop {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 280px;
  min-height: calc(100dvh - 47px);
}
section {
  display: grid;
  gap: 16px;
  align-content: start;
  padding: 20px 28px;
  min-width: 0;
}
.cut {
  color: var(--cut);
}
small {
  font: 500 15px var(--narrow);
  color: var(--quiet);
}
table {
  border-collapse: collapse;
  font: 500 15px var(--narrow);
}
th {
  text-align: left;
  color: var(--quiet);
  font-weight: 500;
}
th,
td {
  padding: 6px 14px 6px 0;
  border-bottom: 1px solid var(--hair);
}
td.mono {
  font: 500 14px var(--mono);
  white-space: nowrap;
}
.right {
  text-align: right;
}
@media (max-width: 1000px) {
  .worktop {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
