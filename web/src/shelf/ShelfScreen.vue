<script setup lang="ts">
/** The shelf: parts by what they are, with what was measured beside what is advertised; castings with what was learned. */
import Button from 'primevue/button'
import { computed, nextTick, ref } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { api, asBytes, newId, now, problemIn, told, type Problem, type Schemas } from '@/api/client'
import { useSheet } from '@/api/sheet'
import ChoiceField from '@/ui/ChoiceField.vue'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import ProblemNote from '@/ui/ProblemNote.vue'
import { useSession } from '@/frame/session'
import ShopMark from '@/frame/ShopMark.vue'
import TextField from '@/ui/TextField.vue'
import NotShown from '@/ui/NotShown.vue'

type Card = Schemas['ShelfCard']
const { units, personId, shop } = useSession()
const router = useRouter()
const {
  sheet: shelf,
  load,
  failure,
} = useSheet(() => told(api.GET('/api/shelf', { params: { query: { units: units.value } } })), [units])
const words = ref('')
const find = ref<InstanceType<typeof TextField>>()
const file = ref<HTMLInputElement>()
const problem = ref<Problem>()
const imported = ref('')
const adding = ref(false)
const fresh = ref({ kind: 'throttle', name: '', maker: '', bore: '' })
const KINDS = ['filter', 'tube', 'meter', 'throttle', 'adapter', 'manifold', 'head', 'inlet']
const kindOptions = KINDS.map((k) => ({ value: k, label: k }))

document.title = 'Shelf · Elvarn'

const matches = (c: Card) =>
  [c.name, c.maker, c.number, c.kind, c.material].join(' ').toLowerCase().includes(words.value.toLowerCase())
const groups = computed(() =>
  KINDS.map((kind) => ({
    kind,
    parts: (shelf.value?.parts ?? []).filter((c) => c.kind === kind && matches(c)),
  })).filter((g) => g.parts.length),
)

async function add(accepted: string[] = []): Promise<void> {
  const [id, state_id] = [newId(), newId()]
  const { kind, name, maker, bore } = fresh.value
  try {
    const part = { person_id: personId.value, job_id: null, kind, name, maker: maker || null, state_id }
    await told(api.PUT('/api/parts/{part_id}', { params: { path: { part_id: id } }, body: part }))
    if (bore.trim()) {
      await told(
        api.PUT('/api/dimensions/{reading_id}', {
          params: { path: { reading_id: newId() } },
          body: {
            person_id: personId.value,
            job_id: null,
            part_state_id: state_id,
            element_kind: kind === 'manifold' ? 'runner' : kind,
            cylinder: kind === 'manifold' ? 1 : null,
            quantity: 'bore',
            typed: bore,
            taken_at: now(),
            accepted,
          },
        }),
      )
    }
    void router.push(`/parts/${id}`)
  } catch (error) {
    problem.value = problemIn(error, 'Your entry is still here.')
  }
}
function answer(patch: Record<string, unknown>): void {
  if (typeof patch['typed'] === 'string') fresh.value.bore = patch['typed']
  problem.value = undefined
  void add((patch['accepted'] as string[] | undefined) ?? [])
}

async function drop(dropped: File | undefined): Promise<void> {
  if (!dropped) return
  const query = { name: dropped.name, person_id: personId.value, bench_id: shop.value?.benches[0]?.id }
  try {
    const done = await told(
      api.POST('/api/shelf/import', { params: { query }, ...asBytes(await dropped.arrayBuffer()) }),
    )
    problem.value = undefined
    const already = done.here_already?.length ? `; ${done.here_already.length} lay here already` : ''
    imported.value = `${done.added?.length ?? 0} added${already}.`
    await load()
  } catch (error) {
    problem.value = problemIn(error, 'Your entry is still here.')
  }
}

function move(by: number): void {
  const rows = [...document.querySelectorAll<HTMLElement>('.part-row')]
  const at = rows.findIndex((row) => row === document.activeElement)
  rows[at < 0 ? 0 : Math.min(rows.length - 1, Math.max(0, at + by))]?.focus()
}
async function openAdd(): Promise<void> {
  adding.value = true
  await nextTick()
}

useKeys([
  { key: 'ArrowDown', says: 'next part (Enter opens it)', run: () => move(1) },
  { key: 'ArrowUp', says: 'previous part', run: () => move(-1) },
  { key: 'n', says: 'new part', run: () => void openAdd() },
  { key: '/', says: 'find', run: () => find.value?.select() },
  { key: 'i', says: 'import a table or JSON', run: () => file.value?.click() },
])
</script>

<template>
  <div class="shelf" @dragover.prevent @drop.prevent="drop($event.dataTransfer?.files[0])">
    <header>
      <RouterLink to="/" class="narrow quiet">◂ Board</RouterLink>
      <h1>Shelf</h1>
      <span v-if="shelf" class="quiet narrow">{{ shelf.parts.length }} parts</span>
      <TextField ref="find" v-model="words" label="Find" class="find" small />
      <span class="space" />
      <ShopMark />
      <Button @click="openAdd">New part <KeyCap k="N" /></Button>
    </header>
    <form v-if="adding" class="add" @submit.prevent="add()" @keydown.esc="adding = false">
      <ChoiceField v-model="fresh.kind" label="Type" :options="kindOptions" small />
      <TextField v-model="fresh.name" label="Name" focus small />
      <TextField v-model="fresh.maker" label="Maker" small />
      <TextField v-model="fresh.bore" label="Measured bore" placeholder="70 mm or 2 3/4 in" small />
      <Button type="submit" size="small">Put on the shelf <KeyCap k="Enter" /></Button>
    </form>
    <ProblemNote v-if="problem" :problem="problem" @choose="answer" />
    <p v-if="imported" role="status">{{ imported }}</p>
    <main v-if="shelf?.parts.length">
      <div class="heads narrow quiet" aria-hidden="true">
        <span /><span /><span class="n">bore measured</span><span class="n">advertised</span
        ><span class="n">flow</span><span class="n">price</span><span class="n">wait</span
        ><span class="n">mass</span>
      </div>
      <section v-for="g in groups" :key="g.kind" :aria-label="g.kind">
        <h2>{{ g.kind }}s</h2>
        <div class="rows">
          <RouterLink v-for="c in g.parts" :key="c.id" :to="`/parts/${c.id}`" class="part-row">
            <img v-if="c.photo_digest" :src="`/api/pictures/${c.photo_digest}`" alt="" />
            <span v-else />
            <span class="name"
              ><strong>{{ c.name }}</strong>
              <span class="quiet narrow"
                >{{ [c.maker, c.number, c.material].filter(Boolean).join(' · ') }}
                {{ c.claims ? ` · ${c.claims === 1 ? 'a claim' : `${c.claims} claims`}` : '' }}</span
              ></span
            >
            <span class="n mono">{{
              c.bore.measured ? `${c.bore.measured.text} ${c.bore.measured.unit}` : '–'
            }}</span>
            <span class="n mono quiet"
              >{{ c.bore.advertised ? `${c.bore.advertised.text} ${c.bore.advertised.unit}` : '–' }}
              <small v-if="c.bore.difference" class="doubt">{{ c.bore.difference }}</small></span
            >
            <span class="n mono" :class="{ guess: c.flow && c.flow_grade !== 'measured' }">
              {{ c.flow ? `${c.flow.text} ${c.flow.unit}` : 'not flowed' }}
            </span>
            <span class="n mono">{{
              c.price == null ? '–' : `${c.price.toFixed(0)} ${shelf.currency}`
            }}</span>
            <span class="n mono">{{ c.lead_days == null ? '–' : `${c.lead_days} d` }}</span>
            <span class="n mono">{{ c.mass_kg == null ? '–' : `${c.mass_kg.toFixed(1)} kg` }}</span>
          </RouterLink>
        </div>
      </section>
    </main>
    <main v-else-if="shelf" class="nothing">
      <h2>The shelf is empty.</h2>
      <p>
        Press <KeyCap k="N" /> for a part, or drop a table here: a row a part, with at least the columns kind
        and name. What lies here can be tried in the air path of any job.
      </p>
    </main>
    <section v-if="shelf?.castings.length" class="castings" aria-label="Castings">
      <h2>Castings</h2>
      <div v-for="c in shelf.castings" :key="c.maker + c.number" class="casting">
        <p>
          <RouterLink :to="`/parts/${c.part_id}/history`" class="strong">{{ c.number }}</RouterLink>
          <span class="narrow quiet">{{ c.maker }} {{ c.name }} · {{ c.words }}</span>
        </p>
        <ul>
          <li v-for="(j, i) in c.jobs" :key="i">
            <RouterLink v-if="j.job_id" :to="`/jobs/${j.job_id}/bench`">{{ j.title }}</RouterLink><span
              v-else
              >{{ j.title }}</span
            >
            <span class="mono">
              {{
                j.before
                  ? `${j.before.text} → ${j.after ? j.after.text : '…'} ${j.before.unit}`
                  : 'not flowed'
              }}
            </span>
            <span v-if="j.gain_percent != null" class="mono gain">+{{ j.gain_percent.toFixed(1) }} %</span>
            <span v-if="j.stage != null" class="narrow quiet">stage {{ j.stage }}</span>
            <span v-if="j.note" class="narrow">{{ j.note }}</span>
          </li>
        </ul>
      </div>
    </section>
    <NotShown :why="failure" />
    <footer>
      <a href="/api/shelf.csv">Table</a>
      <a href="/api/shelf.json">Export JSON (all data)</a>
      <button type="button" class="plain-button link" @click="file?.click()">Import <KeyCap k="I" /></button>
      <input
        ref="file"
        type="file"
        accept=".csv,.tsv,.txt,.json"
        class="hidden-to-eyes"
        aria-label="Import"
        @change="drop(($event.target as HTMLInputElement).files?.[0])"
      />
    </footer>
  </div>
</template>

<style scoped>
.shelf {
  min-height: 100%;
  padding: 0 24px 24px;
}
header {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 18px;
  padding: 10px 0;
  border-bottom: 1px solid var(--hair);
}
header a {
  text-decoration: none;
}
.find {
  display: flex;
  align-items: center;
  gap: 8px;
}
.space {
  flex: 1;
}
.add {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 10px 16px;
  padding: 10px 0;
  border-bottom: 1px solid var(--hair);
}
h2 {
  padding: 12px 0 2px;
}
section > h2::first-letter {
  text-transform: uppercase;
}
.heads,
.part-row {
  display: grid;
  grid-template-columns: 44px minmax(180px, 1fr) 110px 150px 122px 84px 58px 74px;
  align-items: center;
  gap: 0 14px;
}
.heads {
  position: sticky;
  top: 0;
  background: var(--ground);
  height: 26px;
}
.rows {
  border-top: 1px solid var(--hair);
}
.part-row {
  color: inherit;
  text-decoration: none;
  padding: 4px 0;
  border-bottom: 1px solid var(--faint);
  min-height: 40px;
}
.part-row:hover,
.part-row:focus-visible {
  background: var(--sheet);
}
img {
  width: 44px;
  height: 34px;
  object-fit: cover;
}
.name {
  display: grid;
  line-height: 1.2;
}
.n {
  text-align: right;
  white-space: nowrap;
}
.guess {
  font-style: italic;
  color: var(--quiet);
}
small {
  font-size: 13px;
}
.strong {
  font-weight: 600;
}
.castings ul {
  list-style: none;
  margin: 0 0 8px;
  padding: 0;
}
.castings li {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
  align-items: baseline;
  padding: 1px 0;
}
.casting {
  padding: 4px 0;
  border-top: 1px solid var(--hair);
}
.gain {
  color: var(--cut);
}
footer {
  display: flex;
  gap: 20px;
  padding-top: 12px;
}
.link {
  color: var(--dye);
}
.nothing {
  padding: 30px 0;
  max-width: 60ch;
}
@media (max-width: 1000px) {
  .heads {
    display: none;
  }
  .part-row {
    grid-template-columns: 44px minmax(0, 1fr) 76px 128px 92px 74px;
  }
  .part-row > :nth-child(n + 7) {
    display: none;
  }
}
</style>
