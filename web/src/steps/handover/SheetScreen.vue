<script setup lang="ts">
/** The customer's sheet as it prints: one page. */
import Button from 'primevue/button'
import { computed, nextTick, onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, problemIn, told, type Problem } from '@/api/client'
import { useSheet } from '@/api/sheet'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import { useSession } from '@/frame/session'
import { useJob } from '@/frame/job'
import NotShown from '@/ui/NotShown.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import { day } from '@/ui/words'
import PairTable from './PairTable.vue'
import SheetTable from './SheetTable.vue'

const MARKS: Record<string, string> = { measured: '●', computed: '◐', estimated: '◔', rule: '○' }
const { id: jobId, reload, changed } = useJob()
const { units, personId } = useSession()
const route = useRoute()
const router = useRouter()
const { sheet, load, loaded, failure } = useSheet(
  () =>
    told(
      api.GET('/api/jobs/{job_id}/sheet', {
        params: { path: { job_id: jobId }, query: { units: units.value } },
      }),
    ),
  [units, changed],
)
const problem = ref<Problem>()
const handed = computed(() => (sheet.value?.closed ? sheet.value.handed : []))
const older = (id: string) => `/api/jobs/${jobId}/handed/${id}.pdf`
/** The sheet as it went out; of an open job as it would print today. */
const pdf = () => (handed.value[0] ? older(handed.value[0].id) : today())
const today = () => `/api/jobs/${jobId}/sheet.pdf?units=${units.value}`
const said = computed(() => handed.value[0]?.said ?? [])

onMounted(async () => {
  await loaded
  if (route.query['print'] === undefined) return
  await router.replace({ query: {} })
  await nextTick()
  print()
})

/** What went out prints as it went out. */
const print = () => (handed.value.length ? void window.open(pdf()) : window.print())

async function close(patch: Record<string, unknown> = {}): Promise<void> {
  if (!sheet.value) return
  try {
    await told(
      api.POST('/api/jobs/{job_id}/closing', {
        params: { path: { job_id: jobId }, query: { units: units.value } },
        body: {
          version: sheet.value.version,
          closed: !sheet.value.closed,
          person_id: personId.value || null,
          ...patch,
        },
      }),
    )
    problem.value = undefined
    await Promise.all([load(), reload()])
  } catch (caught) {
    problem.value = problemIn(caught, 'Try again.')
  }
}

useKeys([
  { key: 'p', says: 'print', run: print },
  { key: 'e', says: 'open the PDF', run: () => window.open(pdf()) },
])
</script>

<template>
  <div v-if="sheet" class="desk">
    <div class="tools">
      <Button @click="print">Print <KeyCap k="P" /></Button>
      <Button as="a" :href="pdf()" target="_blank" outlined>PDF <KeyCap k="E" /></Button>
      <span class="space" />
      <Button outlined @click="close()">{{ sheet.closed ? 'Reopen job' : 'Close job' }}</Button>
    </div>
    <ProblemNote v-if="problem" class="asked" :problem="problem" @choose="close" />
    <div v-if="handed.length" class="handed narrow" role="note">
      <p>
        Handed over on
        <template v-for="(h, i) in handed" :key="h.id">
          {{ i ? ', before that on' : '' }}
          <a :href="older(h.id)" target="_blank">{{ day(h.on) }}{{ h.person && ` by ${h.person}` }}</a>
        </template>
        — print and PDF give that sheet.
      </p>
      <p v-if="said.length" class="doubt">
        It said: {{ said.join('; ') }}. What stands below is worked out from what the bench knows today.
      </p>
    </div>
    <article class="sheet" :aria-label="`Flow sheet of ${sheet.title}`">
      <p v-if="sheet.shop" class="shop">
        <b>{{ sheet.shop }}</b> <span class="narrow">{{ sheet.address }}</span>
      </p>
      <header>
        <div>
          <h1>{{ sheet.title }}</h1>
          <p class="narrow">{{ sheet.subtitle }}</p>
        </div>
        <div class="right">
          <p>
            <b>{{ sheet.customer }}</b>
          </p>
          <p class="narrow">{{ sheet.made_on }}</p>
        </div>
      </header>
      <p v-if="sheet.not_signed_off" class="unsigned">! {{ sheet.not_signed_off }}</p>
      <div v-if="sheet.headlines.length" class="headlines">
        <p v-for="h in sheet.headlines" :key="h.words">
          <b v-if="h.figure">{{ h.figure }}</b>
          <span :class="{ unlike: !h.figure }">{{ h.words }}</span>
        </p>
      </div>
      <template v-if="sheet.rows.length">
        <div class="line">
          <h2>Flow before and after</h2>
          <span class="narrow">{{ sheet.basis }}</span>
          <span class="space" />
          <span class="narrow"><i class="dot open" /> before: {{ sheet.before_label }}</span>
          <span v-if="sheet.after_label" class="narrow"
            ><i class="dot" /> after: {{ sheet.after_label }}</span
          >
        </div>
        <SheetTable :sheet="sheet" />
      </template>
      <template v-if="sheet.plate">
        <div class="line">
          <h2>Dyno, compared with stock</h2>
          <span class="narrow">{{ sheet.plate_basis }}</span>
          <span class="space" />
        </div>
        <!-- eslint-disable-next-line vue/no-v-html -- drawn by our own server, names escaped: the plate of the paper -->
        <div class="plate" v-html="sheet.plate" />
      </template>
      <table v-if="sheet.designs.length" class="setup designs narrow">
        <thead>
          <tr>
            <th
              v-for="h in [
                'Design',
                `Average, ${sheet.designs_unit}`,
                'Gain',
                '±',
                '%',
                `Peak, ${sheet.designs_unit} at rpm`,
                '',
              ]"
              :key="h"
            >
              {{ h }}
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in sheet.designs" :key="r.name">
            <th scope="row">{{ r.name }}</th>
            <td class="mono">{{ r.power }}</td>
            <td class="mono gain">{{ r.gain }}</td>
            <td class="mono">{{ r.half_width }}</td>
            <td>{{ r.percent }}</td>
            <td>{{ r.peak }}</td>
            <td>{{ r.judgement }}</td>
          </tr>
        </tbody>
      </table>
      <div class="columns">
        <section v-if="sheet.said.length || sheet.dyno_said.length">
          <h2>Results</h2>
          <p v-for="(s, i) in [...sheet.said, ...sheet.dyno_said]" :key="i" class="told" :class="s.tone">
            <span class="grade">{{ MARKS[s.grade] }}</span> {{ s.paper }}
          </p>
        </section>
        <section>
          <template v-if="sheet.work.length">
            <h2>Work</h2>
            <table class="setup narrow">
              <tbody>
                <tr v-for="[name, words] in sheet.work" :key="name">
                  <th scope="row">{{ name }}</th>
                  <td>{{ words }}</td>
                </tr>
              </tbody>
            </table>
          </template>
          <template v-if="sheet.path">
            <h2>
              Air path <small class="narrow">{{ sheet.path.at }}</small>
            </h2>
            <PairTable :before="sheet.path.before" :after="sheet.path.after" :rows="sheet.path.rows" />
          </template>
          <template v-if="sheet.setup.length">
            <h2>Bench set-up</h2>
            <PairTable before="before" :after="sheet.after_label ? 'after' : ''" :rows="sheet.setup" />
          </template>
        </section>
      </div>
      <footer class="narrow">
        <p>● measured · ◐ calculated · ◔ estimated · ○ rule of thumb</p>
        <p>{{ sheet.caution }}</p>
        <p>
          "Clear": the change is larger than the ± of this before/after comparison on our bench. By chance
          alone one of the runners is called clear in 5 % of sheets, the average in another 5 %. Method
          {{ sheet.method_version }}.
        </p>
      </footer>
    </article>
  </div>
  <NotShown v-else :why="failure" />
</template>

<style scoped>
.desk {
  padding: 16px 28px 40px;
  overflow-y: auto;
}
.tools {
  display: flex;
  gap: 12px;
  align-items: center;
  max-width: 860px;
  margin: 0 auto 14px;
}
.space {
  flex: 1;
}
.tools a {
  text-decoration: none;
}
.sheet {
  max-width: 860px;
  margin: 0 auto;
  padding: 34px 40px 26px;
  background: #fff;
  color: #16202a;
  border: 1px solid var(--hair);
  font-size: 15px;
  line-height: 1.35;
}
.unsigned {
  color: #a1261c;
  font-weight: 600;
}
.handed,
.asked {
  max-width: 820px;
  margin: 0 auto 10px;
}
.sheet .narrow {
  color: #4d5863;
}
header,
.line {
  display: flex;
  justify-content: space-between;
  gap: 16px;
  align-items: baseline;
}
header {
  padding-bottom: 8px;
  border-bottom: 2px solid #16202a;
}
header h1 {
  font-size: 26px;
}
.right {
  text-align: right;
}
.line {
  padding: 12px 0 4px;
}
.shop {
  margin-bottom: 4px;
}
.headlines {
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: 1fr;
  gap: 24px;
  padding: 10px 0 4px;
}
.headlines b {
  display: block;
  font-size: 38px;
  line-height: 1.1;
}
.unlike {
  color: #775600;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 300px;
  gap: 34px;
  padding-top: 14px;
}
.columns h2 {
  font-size: 17px;
  padding: 4px 0;
}
.told {
  margin-bottom: 5px;
}
.told.doubt,
.told.harm {
  color: #775600;
}
.setup {
  width: 100%;
  border-collapse: collapse;
  margin-bottom: 8px;
}
.setup th,
.setup td {
  padding: 2px 8px 2px 0;
  text-align: left;
  vertical-align: top;
  font-weight: 500;
  border-bottom: 1px solid #d5dade;
}
.plate {
  max-width: 740px;
}
.designs .gain {
  color: #b4551d;
  font-weight: 600;
}
.dot {
  display: inline-block;
  width: 11px;
  height: 11px;
  border-radius: 50%;
  background: #b4551d;
  print-color-adjust: exact;
}
.dot.open {
  background: #fff;
  border: 1.8px solid #16202a;
}
footer {
  padding-top: 18px;
  font-size: 13px;
}
@media print {
  .tools,
  .handed {
    display: none;
  }
  .desk {
    padding: 0;
    overflow: visible;
  }
  .sheet {
    border: 0;
    padding: 0;
    max-width: none;
  }
}
</style>
<style>
@media print {
  @page {
    size: A4;
    margin: 14mm;
  }
  html,
  body,
  #app,
  .frame {
    height: auto !important;
    background: #fff !important;
    display: block !important;
  }
}
</style>
