<script setup lang="ts">
/** The order list over all jobs: what has to be ordered and by when, what is coming, and what lies here for whom. */
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { RouterLink } from 'vue-router'
import { api, problemIn, told, type Schemas } from '@/api/client'
import { useSheet } from '@/api/sheet'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import ShopMark from '@/frame/ShopMark.vue'
import { offerUndo } from '@/frame/undo'
import Margin from '@/ui/Margin.vue'
import NotShown from '@/ui/NotShown.vue'
import Screen from '@/ui/Screen.vue'
import { day } from '@/ui/words'

type Row = Schemas['OrderRow']
type Want = Schemas['Want']
type State = Schemas['WantState']
const { sheet, load, failure } = useSheet(() => told(api.GET('/api/orders')))
const rows = computed(() => sheet.value?.rows ?? [])
const marked = ref(0)
const refusal = ref('')
const STATES: Record<string, string> = { wanted: 'to order', ordered: 'ordered', here: 'here, set aside' }
document.title = 'Order list · Elvarn'

const current = computed(() => rows.value[Math.min(marked.value, rows.value.length - 1)])
function move(by: number): void {
  marked.value = Math.min(rows.value.length - 1, Math.max(0, marked.value + by))
}
const step = (want: Want, version: number, state: State) =>
  told(
    api.POST('/api/wants/{want_id}/state', {
      params: { path: { want_id: want.id } },
      body: { version, state },
    }),
  )

/** Each want of the marked part that is at one state goes on to the next; all of them can be taken back at once. */
async function go(from: State, to: State, done: string): Promise<void> {
  const row = current.value
  const wants = (row?.wants ?? []).filter((w) => w.state === from)
  if (!row || !wants.length) return
  const moved: Want[] = []
  try {
    for (const want of wants) {
      await step(want, want.version, to)
      moved.push(want)
    }
    refusal.value = ''
  } catch (error) {
    refusal.value = problemIn(error, 'Try again.').detail
  }
  await load()
  if (moved.length)
    offerUndo(`${row.name} ${done}`, async () => {
      for (const want of moved) await step(want, want.version + 1, from)
      await load()
    })
}
const order = () => go('wanted', 'ordered', 'marked ordered')
const arrive = () => go('ordered', 'here', 'marked here')
const setAside = () => go('wanted', 'here', 'set aside from the shelf')
const fit = () => go('here', 'fitted', 'marked fitted')
const drop = () => go('wanted', 'dropped', 'no longer wanted')
const can = (row: Row | undefined, state: State) => !!row?.wants.some((w) => w.state === state)

useKeys([
  { key: 'ArrowDown', says: 'next part', run: () => move(1) },
  { key: 'ArrowUp', says: 'previous part', run: () => move(-1) },
  { key: 'o', says: 'mark it ordered', run: () => void order() },
  { key: 'h', says: 'mark it here: it came in', run: () => void arrive() },
  { key: 'a', says: 'set aside what lies here', run: () => void setAside() },
  { key: 'f', says: 'mark it fitted', run: () => void fit() },
  { key: 'x', says: 'no longer wanted', run: () => void drop() },
])
const money = (value: number | null) =>
  value == null ? '–' : `${value.toFixed(0)} ${sheet.value?.currency ?? ''}`
</script>

<template>
  <div class="orders">
    <header>
      <RouterLink to="/" class="narrow quiet">◂ Board</RouterLink>
      <RouterLink to="/shelf" class="narrow quiet">Shelf</RouterLink>
      <h1>Order list</h1>
      <span class="space" />
      <ShopMark />
    </header>
    <Screen v-if="sheet" class="list">
      <p class="sum">
        <span class="mono">{{ money(sheet.sum) }}</span>
        <span class="narrow quiet"
          >to order{{ sheet.unpriced ? `, and ${sheet.unpriced} without a price` : '' }}</span
        >
      </p>
      <table v-if="rows.length">
        <thead class="narrow quiet">
          <tr>
            <th>part</th>
            <th class="n">order</th>
            <th class="n">sum</th>
            <th class="n">by</th>
            <th class="n">here</th>
            <th class="n">promised</th>
            <th class="n">ordered</th>
            <th class="n">left over</th>
          </tr>
        </thead>
        <tbody v-for="(r, i) in rows" :key="r.part_id" :class="{ on: r === current }" @click="marked = i">
          <tr>
            <th scope="row">
              <RouterLink :to="`/parts/${r.part_id}`">{{ r.name }}</RouterLink>
              {{ ' ' }}<span class="narrow quiet">{{ [r.maker, r.number].filter(Boolean).join(' · ') }}</span>
            </th>
            <td class="n mono big">{{ r.to_order || '' }}</td>
            <td class="n mono">{{ r.to_order ? money(r.sum ?? null) : '' }}</td>
            <td class="n mono" :class="{ doubt: r.overdue }">{{ r.order_by ? day(r.order_by) : '' }}</td>
            <td class="n mono">{{ r.here }}</td>
            <td class="n mono">{{ r.promised }}</td>
            <td class="n mono">{{ r.ordered }}</td>
            <td class="n mono" :class="{ doubt: r.left_over < 0 }">
              {{ String(r.left_over).replace('-', '−') }}
            </td>
          </tr>
          <tr v-for="w in r.wants" :key="w.id" class="want narrow">
            <td colspan="8">
              {{ w.count }} for
              <RouterLink v-if="w.job_id" :to="`/jobs/${w.job_id}/sets`">{{ w.job }}</RouterLink>
              <template v-else>{{ w.job }}</template>{{ w.due_on ? `, due ${day(w.due_on)}` : '' }} ·
              <span :class="{ doubt: w.late }"
                >{{ w.state === 'wanted' && !r.to_order ? 'lies here' : STATES[w.state]
                }}{{ w.state === 'ordered' && w.expected_on ? `, expected ${day(w.expected_on)}` : '' }}</span
              >
            </td>
          </tr>
        </tbody>
      </table>
      <p v-else class="quiet">
        Nothing is wanted. Want a part on a job's sets or candidates, or on the part.
      </p>
      <p class="doing">
        <Button v-if="can(current, 'wanted')" size="small" @click="order">Ordered <KeyCap k="O" /></Button>
        <Button v-if="can(current, 'ordered')" size="small" @click="arrive">Came in <KeyCap k="H" /></Button>
        <Button
          v-if="can(current, 'wanted') && current!.here"
          size="small"
          severity="secondary"
          @click="setAside"
          >Set aside from the shelf <KeyCap k="A"
        /></Button>
        <Button v-if="can(current, 'here')" size="small" severity="secondary" @click="fit"
          >Fitted <KeyCap k="F"
        /></Button>
        <Button v-if="can(current, 'wanted')" size="small" severity="secondary" text @click="drop"
          >No longer wanted <KeyCap k="X"
        /></Button>
        <a href="/api/orders.csv" class="narrow">Export as a table</a>
      </p>
      <p v-if="failure || refusal" class="harm" role="alert">{{ failure || refusal }}</p>
      <template #margin><Margin title="Orders" :sentences="sheet.margin" /></template>
    </Screen>
    <NotShown v-else :why="failure" />
  </div>
</template>

<style scoped>
.orders {
  display: flex;
  flex-direction: column;
  height: 100%;
}
header {
  display: flex;
  gap: 10px 18px;
  align-items: center;
  padding: 12px 24px;
  border-bottom: 1px solid var(--hair);
}
.space {
  flex: 1;
}
.list {
  flex: 1;
  min-height: 0;
}
.sum .mono {
  font-size: 40px;
  margin-right: 12px;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th {
  text-align: left;
  font-weight: 600;
}
thead th {
  font: 500 14px var(--narrow);
}
th,
td {
  padding: 4px 8px;
}
.n {
  text-align: right;
  white-space: nowrap;
}
.big {
  font-size: 19px;
}
tbody {
  border-top: 1px solid var(--hair);
  cursor: pointer;
}
tbody.on {
  background: var(--sheet);
  box-shadow: inset 3px 0 0 var(--dye);
}
.want td {
  padding: 0 8px 4px 22px;
  color: var(--quiet);
}
a {
  color: inherit;
}
.doing {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 16px;
  padding-top: 14px;
}
</style>
