<script setup lang="ts">
/** The shop board: the jobs by the step they stand at, each with its air path in small, and what is next. */
import Button from 'primevue/button'
import { computed } from 'vue'
import { RouterLink, useRoute, useRouter } from 'vue-router'
import AirPath from '@/airpath/AirPath.vue'
import { api, told } from '@/api/client'
import { useSheet } from '@/api/sheet'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import { useSession } from '@/frame/session'
import ShopMark from '@/frame/ShopMark.vue'
import MidCut from '@/ui/MidCut.vue'
import { day, firstUp } from '@/ui/words'
import CopyLine from './CopyLine.vue'

const { units } = useSession()
const router = useRouter()
const route = useRoute()
const page = computed(() => Math.max(1, Number(route.query.page) || 1))
const { sheet: board, failure } = useSheet(
  () => told(api.GET('/api/board', { params: { query: { units: units.value, page: page.value } } })),
  [units, page],
)
const shown = computed(() => columns.value.reduce((sum, column) => sum + column.jobs.length, 0))
const columns = computed(() => board.value?.columns ?? [])

function move(by: number): void {
  const rows = [...document.querySelectorAll<HTMLElement>('.job')]
  const at = rows.findIndex((row) => row === document.activeElement)
  rows[at < 0 ? 0 : Math.min(rows.length - 1, Math.max(0, at + by))]?.focus()
}

function turn(by: number): void {
  const at = board.value
  if (at && at.page + by >= 1 && at.page + by <= at.pages) void router.push({ query: { page: at.page + by } })
}

useKeys([
  { key: 'n', says: 'new job', run: () => void router.push('/new') },
  { key: 'l', says: 'shelf', run: () => void router.push('/shelf') },
  { key: 'r', says: 'reckoner: one number, now', run: () => void router.push('/reckoner') },
  { key: 'ArrowDown', says: 'next job (Enter opens)', run: () => move(1) },
  { key: 'ArrowUp', says: 'previous job', run: () => move(-1) },
  { key: 'ArrowRight', says: 'later jobs', run: () => turn(1) },
  { key: 'ArrowLeft', says: 'earlier jobs', run: () => turn(-1) },
])
document.title = 'Jobs board · Elvarn'

const filled = computed(() => columns.value.filter((c) => c.jobs.length))
const empty = computed(() => columns.value.filter((c) => !c.jobs.length))
/** What can't wait: late, or nobody decided; as many as one line or two take. */
const MOST_FIRST = 6
const pressing = computed(() => columns.value.flatMap((c) => c.jobs).filter((j) => j.late || j.waits))
const first = computed(() => pressing.value.slice(0, MOST_FIRST))
</script>

<template>
  <div class="board">
    <header>
      <h1>Jobs board</h1>
      <span v-if="board" class="quiet narrow"
        >{{ board.count }} {{ board.count === 1 ? 'job' : 'jobs' }} open</span
      >
      <span class="space" />
      <ShopMark />
      <template v-if="board || !failure">
        <Button as="router-link" to="/shelf" severity="secondary">Shelf <KeyCap k="L" /></Button>
        <Button as="router-link" to="/reckoner" severity="secondary">Reckoner <KeyCap k="R" /></Button>
        <Button as="router-link" to="/new" class="new">New job <KeyCap k="N" /></Button>
      </template>
    </header>
    <p v-if="failure" class="failure harm" role="alert">{{ failure }}</p>
    <nav v-if="first.length" class="first" aria-label="First">
      <h2>First</h2>
      <RouterLink v-for="j in first" :key="j.id" :to="`/jobs/${j.id}/${j.step}`">
        <MidCut :words="j.title" />
        <span class="narrow doubt">{{ [j.overdue, j.waits].filter(Boolean).join(' · ') }}</span>
      </RouterLink>
      <span v-if="pressing.length > first.length" class="narrow quiet"
        >and {{ pressing.length - first.length }} more</span
      >
    </nav>
    <nav v-if="board?.today.length" class="first" aria-label="Today">
      <h2>Today</h2>
      <RouterLink
        v-for="w in board.today"
        :key="`${w.job_id}${w.says}${w.person}`"
        :to="`/jobs/${w.job_id}/${w.step === 'port' && !w.running ? 'port/steps' : w.step}`"
      >
        <b>{{ w.person || 'Nobody yet' }}</b>
        <span class="narrow"
          >{{ w.says }}, {{ w.job }}<template v-if="w.running"> · watch runs</template
          ><span v-if="w.since" class="doubt"> · since {{ day(w.since) }}</span></span
        >
      </RouterLink>
    </nav>
    <main v-if="board?.count">
      <section v-for="c in filled" :key="c.step" :aria-label="c.label">
        <h2>{{ c.label }}</h2>
        <div class="jobs">
          <RouterLink v-for="j in c.jobs" :key="j.id" :to="`/jobs/${j.id}/${j.step}`" class="job">
            <AirPath
              v-if="j.path"
              :tree="j.path"
              size="mini"
              :height="74"
              :label="`Air path of ${j.title}`"
            />
            <div class="words">
              <strong><MidCut :words="j.title" /></strong>
              <span class="quiet narrow">{{ [j.kind, j.customer].filter(Boolean).join(' · ') }}</span>
            </div>
            <div class="next">
              <span>{{ j.next }}</span>
              <span v-if="j.waits" class="doubt">{{ firstUp(j.waits) }}</span>
              <span v-if="j.unlike" class="doubt">{{ j.unlike }}</span>
              <span v-else-if="j.gain" class="mono gain">{{ j.gain }}</span>
            </div>
            <span class="due narrow" :class="{ doubt: j.late }">
              <template v-if="j.overdue">{{ j.overdue }}</template>
              <template v-else-if="j.due_on">due {{ day(j.due_on) }}</template>
              <span v-if="j.out && !j.overdue" class="quiet"
                ><br />{{ j.out }}{{ j.back_on ? `, back ${day(j.back_on)}` : '' }}</span
              >
            </span>
          </RouterLink>
        </div>
      </section>
      <p v-if="empty.length" class="empty narrow quiet">
        No job at {{ empty.map((c) => c.label).join(', ') }}.
      </p>
    </main>
    <nav v-if="board && board.pages > 1" class="pages" aria-label="Pages of jobs">
      <Button severity="secondary" :disabled="board.page === 1" @click="turn(-1)"
        >Earlier <KeyCap k="←"
      /></Button>
      <span class="narrow"
        >Jobs {{ board.first }} to {{ board.first + shown - 1 }} of {{ board.count }}, the first due
        first</span
      >
      <Button severity="secondary" :disabled="board.page === board.pages" @click="turn(1)"
        >Later <KeyCap k="→"
      /></Button>
    </nav>
    <section v-if="board?.closed.length" class="closed" aria-label="Handed over">
      <h2>Handed over</h2>
      <p>
        <RouterLink v-for="j in board.closed" :key="j.id" :to="`/jobs/${j.id}/handover`">
          {{ j.title }}<span class="quiet narrow"> {{ day(j.closed_at) }}</span>
        </RouterLink>
      </p>
    </section>
    <section v-if="board?.archived.length" class="closed" aria-label="Put away">
      <h2>Put away</h2>
      <p>
        <RouterLink v-for="j in board.archived" :key="j.id" :to="`/jobs/${j.id}/checkin`">
          {{ j.title }}<span class="quiet narrow"> {{ day(j.closed_at) }}</span>
        </RouterLink>
      </p>
    </section>
    <main v-if="board && !board.count" class="nothing">
      <h2>No job is open.</h2>
      <p>
        When a box comes in, press <KeyCap k="N" />: what it is, for whom, how many runners. The first figure
        can be typed right after.
      </p>
    </main>
    <CopyLine v-if="board" :daily="board.daily_copy" :last="board.last_copy" />
  </div>
</template>

<style scoped>
.board {
  min-height: 100%;
  padding: 0 28px 28px;
}
header {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px 16px;
  padding: 14px 0 12px;
  border-bottom: 1px solid var(--hair);
}
.space {
  flex: 1;
}
.failure {
  padding: 40px 0;
  font-size: 22px;
}
.new {
  text-decoration: none;
}
section {
  display: grid;
  grid-template-columns: 130px minmax(0, 1fr);
  border-bottom: 1px solid var(--hair);
}
section h2 {
  padding: 22px 0;
  border-right: 3px solid var(--dye);
}
.first {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 2px 26px;
  padding: 10px 0;
  border-bottom: 1px solid var(--hair);
}
.first h2 {
  width: 130px;
  margin-right: -4px;
  color: var(--doubt);
}
.first a {
  display: grid;
  max-width: 300px;
  color: inherit;
  text-decoration: none;
}
.first a:hover,
.first a:focus-visible {
  background: var(--sheet);
}
.empty {
  padding: 10px 0;
}
.pages {
  display: flex;
  align-items: center;
  gap: 16px;
  padding: 14px 0;
}
.job {
  display: grid;
  grid-template-columns: minmax(200px, 330px) minmax(170px, 1fr) minmax(190px, 1.2fr) 104px;
  gap: 22px;
  align-items: center;
  padding: 10px 6px 10px 22px;
  color: inherit;
  text-decoration: none;
}
.job + .job {
  border-top: 1px solid var(--faint);
}
.job:hover,
.job:focus-visible {
  background: var(--sheet);
}
.words,
.next {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 2px;
}
.words strong {
  font-weight: 600;
  font-size: 18px;
}
.gain {
  font-size: 14px;
  color: var(--cut);
}
.due {
  text-align: right;

  color: var(--quiet);
}
.due.doubt {
  color: var(--doubt);
  font-weight: 600;
}
.closed h2 {
  padding: 14px 0;
  font: 500 16px var(--narrow);
  color: var(--quiet);
  border-color: var(--hair);
}
.closed p {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 26px;
  padding: 13px 22px;
}
.closed a {
  color: inherit;
}
.closed a .quiet {
  margin-left: 8px;
}
.nothing {
  max-width: 520px;
  padding: 60px 0;
  display: grid;
  gap: 10px;
}
@media (max-width: 1000px) {
  .job {
    grid-template-columns: 160px minmax(0, 1fr) 104px;
    gap: 4px 22px;
  }
  .job > :first-child {
    grid-row: 1 / 3;
  }
  .job .words,
  .job .next {
    grid-column: 2;
  }
  .job .due {
    grid-area: 1 / 3;
  }
}
</style>
