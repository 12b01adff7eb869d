<script setup lang="ts">
/** The shelf: parts by what they are, with what was measured beside what is advertised; castings with what was learned. */
import Button from 'primevue/button'
import { refDebounced } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { RouterLink, useRoute, useRouter } from 'vue-router'
import { api, told } from '@/api/client'
import { useSheet } from '@/api/sheet'
import ChoiceField from '@/ui/ChoiceField.vue'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import ProblemNote from '@/ui/ProblemNote.vue'
import { useSession } from '@/frame/session'
import ShopMark from '@/frame/ShopMark.vue'
import TextField from '@/ui/TextField.vue'
import NotShown from '@/ui/NotShown.vue'
import NewPartForm from './NewPartForm.vue'
import { PART_KINDS } from '@/ui/partKinds'
import CastingList from './CastingList.vue'
import PartRow from './PartRow.vue'
import IncomingPanel from './IncomingPanel.vue'
import { useIncoming } from './useIncoming'

const { units } = useSession()
const router = useRouter()
const words = ref('')
const found = refDebounced(words, 200)
const kind = ref<string>()
const maker = ref<string>()
const page = ref(1)
const route = useRoute()
/** The job whose air path a part has to fit: where one came from it. */
const fits = ref(typeof route.query['job'] === 'string' ? route.query['job'] : undefined)
/** Those put away, instead of those that lie here. */
const archived = ref(false)
watch([found, kind, maker, fits, archived], () => (page.value = 1))
const {
  sheet: shelf,
  load,
  failure,
} = useSheet(
  () =>
    told(
      api.GET('/api/shelf', {
        params: {
          query: {
            units: units.value,
            find: found.value,
            kind: kind.value,
            maker: maker.value,
            fits: fits.value,
            archived: archived.value,
            page: page.value,
          },
        },
      }),
    ),
  [units, found, kind, maker, fits, archived, page],
)
const { sheet: castings } = useSheet(
  () => told(api.GET('/api/castings', { params: { query: { units: units.value } } })),
  [units],
)
const find = ref<InstanceType<typeof TextField>>()
const file = ref<HTMLInputElement>()
const adding = ref(false)
const makerOptions = computed(() => [
  { label: 'every maker', value: undefined },
  ...(shelf.value?.makers ?? []).map((m) => ({ label: m, value: m })),
])
const dropped = useIncoming(load)
const { incoming, busy, said } = dropped

document.title = 'Shelf · Elvarn'

const groups = computed(() =>
  PART_KINDS.map((k) => ({
    kind: k,
    parts: (shelf.value?.parts ?? []).filter((c) => c.kind === k),
  })).filter((g) => g.parts.length),
)
const all = computed(() => (shelf.value?.kinds ?? []).reduce((sum, one) => sum + one.count, 0))
const looking = computed(() => !!(words.value || kind.value || maker.value || fits.value || archived.value))

/** The same file can be chosen once more. */
async function chosen(input: HTMLInputElement): Promise<void> {
  await dropped.look(input.files?.[0])
  input.value = ''
}
function turnKind(): void {
  const kinds = [undefined, ...(shelf.value?.kinds ?? []).map((one) => one.kind)]
  kind.value = kinds[(kinds.indexOf(kind.value) + 1) % kinds.length]
}
function turnPage(by: number): void {
  page.value = Math.min(shelf.value?.pages ?? 1, Math.max(1, page.value + by))
}

function move(by: number): void {
  const rows = [...document.querySelectorAll<HTMLElement>('.part-row')]
  const at = rows.findIndex((row) => row === document.activeElement)
  rows[at < 0 ? 0 : Math.min(rows.length - 1, Math.max(0, at + by))]?.focus()
}

useKeys([
  { key: 'ArrowDown', says: 'next part (Enter opens it)', run: () => move(1) },
  { key: 'ArrowUp', says: 'previous part', run: () => move(-1) },
  { key: 'n', says: 'new part', run: () => (adding.value = true) },
  { key: 'o', says: 'order list', run: () => void router.push('/orders') },
  { key: '/', says: 'find', run: () => find.value?.select() },
  { key: 'v', says: 'next type', run: turnKind },
  { key: 'PageDown', says: 'next page', run: () => turnPage(1) },
  { key: 'PageUp', says: 'page before', run: () => turnPage(-1) },
  { key: 'i', says: 'import a table or JSON', run: () => file.value?.click() },
])
</script>

<template>
  <div class="shelf" @dragover.prevent @drop.prevent="dropped.look($event.dataTransfer?.files[0])">
    <header>
      <RouterLink to="/" class="narrow quiet">◂ Board</RouterLink>
      <h1>Shelf</h1>
      <span v-if="shelf" class="quiet narrow">{{ all }} {{ looking ? 'found' : 'parts' }}</span>
      <TextField ref="find" v-model="words" label="Find" class="find" small />
      <ChoiceField v-model="maker" label="Maker" :options="makerOptions" small class="find" />
      <button v-if="fits" type="button" class="way" @click="fits = undefined">fits the job ×</button>
      <span class="space" />
      <ShopMark />
      <Button as="router-link" to="/orders" severity="secondary">Order list <KeyCap k="O" /></Button>
      <Button @click="adding = true">New part <KeyCap k="N" /></Button>
    </header>
    <NewPartForm v-if="adding" @leave="adding = false" />
    <ProblemNote v-if="dropped.problem.value" :problem="dropped.problem.value" />
    <p v-if="said" role="status">{{ said }}</p>
    <IncomingPanel
      v-if="incoming"
      :key="incoming.name"
      :name="incoming.name"
      :incoming="incoming.seen"
      :busy="busy"
      @take="dropped.take"
      @leave="dropped.leave"
    />
    <p v-else-if="busy && !said" role="status">Reading the file …</p>
    <nav v-if="shelf && (shelf.kinds.length || shelf.put_away)" class="kinds" aria-label="Type">
      <button type="button" :class="{ on: !kind }" @click="kind = undefined">all {{ all }}</button>
      <button
        v-for="one in shelf.kinds"
        :key="one.kind"
        type="button"
        :class="{ on: kind === one.kind }"
        @click="kind = one.kind"
      >
        {{ one.kind }} {{ one.count }}
      </button>
      <KeyCap k="V" />
      <button
        v-if="shelf.put_away || archived"
        type="button"
        class="away"
        :class="{ on: archived }"
        @click="archived = !archived"
      >
        put away {{ shelf.put_away }}
      </button>
    </nav>
    <main v-if="shelf?.parts.length">
      <div class="heads narrow quiet" aria-hidden="true">
        <span /><span /><span class="n">bore measured</span><span class="n">advertised</span
        ><span class="n">flow</span><span class="n">price</span><span class="n">wait</span
        ><span class="n">here</span><span class="n">mass</span>
      </div>
      <section v-for="g in groups" :key="g.kind" :aria-label="g.kind">
        <h2>{{ g.kind }}s</h2>
        <div class="rows">
          <PartRow v-for="c in g.parts" :key="c.id" :card="c" :currency="shelf.currency" />
        </div>
      </section>
    </main>
    <main v-else-if="shelf && looking" class="nothing"><h2>Nothing found.</h2></main>
    <main v-else-if="shelf" class="nothing">
      <h2>The shelf is empty.</h2>
      <p>
        Press <KeyCap k="N" /> for a part, or drop a table here: a row a part, with at least the columns kind
        and name. What lies here can be tried in the air path of any job.
      </p>
    </main>
    <nav v-if="shelf && shelf.pages > 1" class="pages narrow" aria-label="Pages">
      <button type="button" class="way" :disabled="shelf.page === 1" @click="turnPage(-1)">
        <KeyCap k="PageUp" /> before
      </button>
      page {{ shelf.page }} of {{ shelf.pages }}, {{ shelf.found }} parts
      <button type="button" class="way" :disabled="shelf.page === shelf.pages" @click="turnPage(1)">
        next <KeyCap k="PageDown" />
      </button>
    </nav>
    <CastingList v-if="!looking" :castings="castings ?? []" />
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
        @change="chosen($event.target as HTMLInputElement)"
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
h2 {
  padding: 12px 0 2px;
}
section > h2::first-letter {
  text-transform: uppercase;
}
.heads,
.rows :deep(.part-row) {
  display: grid;
  grid-template-columns: 44px minmax(180px, 1fr) 104px 146px 116px 84px 52px 84px 70px;
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
.n {
  text-align: right;
  white-space: nowrap;
}
.kinds {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 16px;
  padding-top: 6px;
}
.kinds button {
  padding: 3px 2px;
  border: 0;
  border-bottom: 3px solid transparent;
  background: none;
  font: 500 16px var(--narrow);
  cursor: pointer;
}
.kinds .on {
  border-color: var(--dye);
  color: var(--dye);
}
.pages {
  display: flex;
  gap: 14px;
  align-items: center;
  padding: 8px 0;
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
  .rows :deep(.part-row) {
    grid-template-columns: 44px minmax(0, 1fr) 76px 128px 92px 74px;
  }
  .rows :deep(.part-row > :nth-child(n + 7)) {
    display: none;
  }
}
</style>
