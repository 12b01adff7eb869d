<script setup lang="ts">
/** The customer's sheet as it prints: one page. */
import Button from 'primevue/button'
import { nextTick, onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, problemIn, told, type Schemas } from '@/api/client'
import { useSheet } from '@/api/sheet'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import { useSession } from '@/frame/session'
import { useJob } from '@/frame/job'
import NotShown from '@/ui/NotShown.vue'

type Sentence = Schemas['Sentence']
const { id: jobId, reload } = useJob()
const { units } = useSession()
const route = useRoute()
const router = useRouter()
const { sheet, load, loaded, failure } = useSheet(
  () =>
    told(
      api.GET('/api/jobs/{job_id}/sheet', {
        params: { path: { job_id: jobId }, query: { units: units.value } },
      }),
    ),
  [units],
)
const error = ref('')
const text = (s: Sentence) => s.pieces?.map((p) => p.text).join('')
const pdf = () => `/api/jobs/${jobId}/sheet.pdf?units=${units.value}`

onMounted(async () => {
  await loaded
  if (route.query['print'] === undefined) return
  await router.replace({ query: {} })
  await nextTick()
  print()
})

const print = () => window.print()

async function close(): Promise<void> {
  if (!sheet.value) return
  try {
    await told(
      api.POST('/api/jobs/{job_id}/closing', {
        params: { path: { job_id: jobId } },
        body: { version: sheet.value.version, closed: !sheet.value.closed },
      }),
    )
    await Promise.all([load(), reload()])
  } catch (caught) {
    error.value = problemIn(caught, 'Try again.').detail
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
      <span v-if="error" class="harm" role="alert">{{ error }}</span>
      <Button outlined @click="close">{{ sheet.closed ? 'Reopen job' : 'Close job' }}</Button>
    </div>
    <article class="sheet" :aria-label="`Flow sheet of ${sheet.title}`">
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
      <div class="line">
        <h2>Flow before and after</h2>
        <span class="narrow">{{ sheet.basis }}</span>
        <span class="space" />
        <span class="narrow"><i class="dot open" /> before: {{ sheet.before_label }}</span>
        <span v-if="sheet.after_label" class="narrow"><i class="dot" /> after: {{ sheet.after_label }}</span>
      </div>
      <table>
        <thead>
          <tr class="narrow">
            <th>Runner</th>
            <th>Before</th>
            <th>After</th>
            <th>Gain</th>
            <th></th>
            <th class="bars">bars from zero</th>
            <th></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in sheet.rows" :key="r.runner">
            <td class="runner">{{ r.runner }}</td>
            <td class="mono">{{ r.before }}</td>
            <td class="mono after">{{ r.after }}</td>
            <td class="mono">{{ r.gain }}</td>
            <td class="narrow">{{ r.percent }}</td>
            <td class="bars">
              <i class="bar open" :style="{ width: `${r.bar_before * 100}%` }" />
              <i class="bar" :style="{ width: `${r.bar_after * 100}%` }" />
            </td>
            <td class="narrow judgement">{{ r.judgement }}</td>
          </tr>
        </tbody>
        <tfoot v-if="sheet.mean">
          <tr>
            <td class="runner">{{ sheet.mean.runner }}</td>
            <td class="mono">{{ sheet.mean.before }}</td>
            <td class="mono after">{{ sheet.mean.after }}</td>
            <td class="mono">{{ sheet.mean.gain }}</td>
            <td class="narrow">{{ sheet.mean.percent }}</td>
            <td class="narrow bars">
              spread {{ sheet.spread_before
              }}<template v-if="sheet.spread_after"> before, {{ sheet.spread_after }} after</template>
            </td>
            <td class="narrow judgement">{{ sheet.mean.judgement }}</td>
          </tr>
        </tfoot>
      </table>
      <div class="two">
        <div>
          <template v-if="sheet.said.length">
            <h2>Results</h2>
            <p v-for="(s, i) in sheet.said" :key="i" class="said" :class="s.tone">
              <i class="grade" :class="s.grade" /> {{ text(s) }}
            </p>
          </template>
          <template v-if="sheet.dyno_said.length">
            <h2>On the dyno, against stock</h2>
            <p v-for="(s, i) in sheet.dyno_said" :key="i" class="said" :class="s.tone">
              <i class="grade" :class="s.grade" /> {{ text(s) }}
            </p>
          </template>
        </div>
        <div>
          <h2>Set-up</h2>
          <dl>
            <div v-for="[name, words] in sheet.setup" :key="name">
              <dt class="narrow">{{ name }}</dt>
              <dd>{{ words }}</dd>
            </div>
          </dl>
        </div>
      </div>
      <footer class="narrow">
        Marks: filled, measured · half, computed · quarter, estimated · open, rule of thumb. Method
        {{ sheet.method_version }}.<br />
        {{ sheet.caution }}
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
table {
  width: 100%;
  border-collapse: collapse;
}
th {
  text-align: right;
  font-weight: 500;
}
th:first-child,
td:first-child,
th.bars {
  text-align: left;
}
td {
  padding: 3px 0 3px 12px;
  text-align: right;
  white-space: nowrap;
}
tr {
  border-bottom: 1px solid #d5dade;
}
.runner {
  font-weight: 600;
  padding-left: 0;
}
.after {
  color: #b4551d;
}
td.bars,
th.bars {
  width: 34%;
  padding-left: 18px;
  text-align: left;
}
.bar {
  display: block;
  height: 7px;
  background: #b4551d;
  print-color-adjust: exact;
}
.bar.open {
  background: #fff;
  border: 1.5px solid #16202a;
}
.bar + .bar {
  margin-top: 2px;
}
.judgement {
  text-align: left;
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
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 260px;
  gap: 34px;
  padding-top: 14px;
}
.two h2 {
  font-size: 17px;
  padding: 4px 0;
}
.said {
  padding-left: 18px;
  text-indent: -18px;
  margin-bottom: 5px;
}
.said.doubt {
  color: #775600;
}
.grade {
  display: inline-block;
  width: 9px;
  height: 9px;
  margin-right: 6px;
  border: 1.4px solid currentColor;
  border-radius: 50%;
  print-color-adjust: exact;
}
.grade.measured {
  background: currentColor;
}
.grade.computed {
  background: linear-gradient(90deg, currentColor 50%, transparent 50%);
}
.grade.estimated {
  background: conic-gradient(currentColor 25%, transparent 25%);
}
dl {
  margin: 0;
}
dl > div {
  display: grid;
  grid-template-columns: 84px 1fr;
  border-bottom: 1px solid #d5dade;
  padding: 3px 0;
}
dd {
  margin: 0;
}
footer {
  padding-top: 18px;
  font-size: 13px;
}
@media print {
  .tools {
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
