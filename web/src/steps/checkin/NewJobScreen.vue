<script setup lang="ts">
/** A new job. A part that came by post needs a name and its number of runners; the first figure comes right after. */
import Button from 'primevue/button'
import { computed, ref, watch, type Ref } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import AirPath from '@/airpath/AirPath.vue'
import { api, newId, problemIn, problemOf, told, type Problem, type Schemas } from '@/api/client'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import { forgetDraft, useDraft } from '@/ui/draft'
import { sent } from '@/ui/figures'
import { provideRefusal } from '@/ui/refusal'
import ProblemNote from '@/ui/ProblemNote.vue'
import { useSession } from '@/frame/session'
import ShopMark from '@/frame/ShopMark.vue'
import TextField from '@/ui/TextField.vue'
import CheckField from '@/ui/CheckField.vue'
import ChoiceField from '@/ui/ChoiceField.vue'

const router = useRouter()
const { shop, personId } = useSession()
const id = newId()
const kind = ref('port_by_post')
const part = ref('')
const customer = ref('')
const runners = ref('')
const title = ref('')
const engine = ref({
  name: '',
  layout: 'inline',
  banks: '1',
  bore: '',
  stroke: '',
  limit: '',
  boosted: false,
  boost: '',
  /** Cylinders of each bank, where they are not numbered bank by bank: "1 3 5 7 / 2 4 6 8". */
  numbered: '',
})
const shape = ref('one plenum')
const use = ref('')
const low = ref('')
const high = ref('')
const fields = { kind, part, customer, runners, title, engine, use, low, high, shape }
for (const [name, one] of Object.entries(fields)) useDraft<unknown>(`new-job.${name}`, one as Ref<unknown>)
const problem = ref<Problem>()
provideRefusal(problem)
const posted = computed(() => kind.value === 'port_by_post')
const banked = computed(() =>
  engine.value.numbered
    .split('/')
    .map((b) => b.trim())
    .filter(Boolean),
)
const asked = computed(() => ({
  runner_count: Number(runners.value),
  bank_count: Number(engine.value.banks) || 1,
  boosted: engine.value.boosted,
  bank: banked.value,
}))
/** What stock can look like, as it is drawn; what can't be asked for yet shows what was drawn last. */
const shapes = ref<Schemas['ShapeView'][]>([])
watch(
  asked,
  async (query) => {
    const { runner_count: n, bank_count: b } = query
    if (!Number.isInteger(n) || n < 1 || n > 16 || !Number.isInteger(b) || b < 1 || b > Math.min(4, n)) return
    const found = await api.GET('/api/shapes', { params: { query } })
    if (found.data) shapes.value = found.data
  },
  { immediate: true },
)
const drawn = computed(() => shapes.value.find((s) => s.name === shape.value) ?? shapes.value[0])
const LAYOUTS = ['single', 'inline', 'vee', 'flat'].map((value) => ({ label: value, value }))

const pathHeight = computed(() => Math.max(96, Math.min(220, 22 * (Number(runners.value) || 4) + 20)))

function refuse(detail: string, path: string): void {
  problem.value = { ...problemOf(detail, 'invalid'), path }
}

async function make(): Promise<void> {
  problem.value = undefined
  if (!personId.value) return refuse('Pick your name first (top right).', 'person_id')
  const count = sent(runners.value)
  if (count === null) return refuse('Enter 1 to 16 runners.', 'runner_count')
  const body = {
    person_id: personId.value,
    kind: kind.value,
    part: part.value,
    runner_count: count,
    customer: customer.value || null,
    title: title.value || null,
    engine: posted.value || !engine.value.name ? null : engineBody(),
    use: use.value || null,
    band_low_rpm: sent(low.value),
    band_high_rpm: sent(high.value),
    shape: posted.value ? undefined : drawn.value?.name,
    banks: banked.value.map((bank) => (bank.match(/\d+/g) ?? []).map(Number)),
  }
  try {
    await told(api.PUT('/api/jobs/{job_id}', { params: { path: { job_id: id } }, body }))
    for (const name of Object.keys(fields)) forgetDraft(`new-job.${name}`)
    await router.push(`/jobs/${id}/${posted.value ? 'bench' : 'path'}`)
  } catch (error) {
    problem.value = problemIn(error, 'Your entry is still here; press Enter to retry.')
  }
}

function engineBody() {
  const e = engine.value
  return {
    name: e.name,
    layout: e.layout,
    bank_count: sent(e.banks) ?? 1,
    bore_mm: sent(e.bore),
    stroke_mm: sent(e.stroke),
    limit_rpm: sent(e.limit),
    boosted: e.boosted,
    boost_kpa: e.boosted ? sent(e.boost) : null,
  }
}

function leave(): void {
  for (const name of Object.keys(fields)) forgetDraft(`new-job.${name}`)
  void router.push('/')
}
useKeys([{ key: 'Escape', says: 'back to the board', run: leave }])
</script>

<template>
  <div class="new-job">
    <header>
      <RouterLink to="/" class="quiet">◂ Board</RouterLink>
      <h1>New job</h1>
      <span class="space" />
      <ShopMark />
    </header>
    <form @submit.prevent="make">
      <TextField label="Part" wide v-model="part" focus place="part" placeholder="e.g. cast manifold" />
      <TextField label="Customer (optional)" v-model="customer" />
      <TextField label="Runners" v-model="runners" inputmode="numeric" place="runner_count" />
      <ChoiceField
        label="Job type"
        wide
        v-model="kind"
        :options="shop?.kinds ?? []"
        shown="title"
        kept="code"
      />
      <template v-if="!posted">
        <h3 class="wide">Engine and goal (fill in what you know)</h3>
        <TextField label="Job name" wide v-model="title" :placeholder="part || 'same as the part'" />
        <TextField label="Engine" wide v-model="engine.name" />
        <ChoiceField label="Layout" v-model="engine.layout" :options="LAYOUTS" />
        <TextField label="Banks" v-model="engine.banks" place="engine.bank_count" inputmode="numeric" />
        <TextField label="Bore, mm" v-model="engine.bore" place="engine.bore_mm" inputmode="decimal" />
        <TextField label="Stroke, mm" v-model="engine.stroke" place="engine.stroke_mm" inputmode="decimal" />
        <TextField label="Limit, rpm" v-model="engine.limit" place="engine.limit_rpm" inputmode="numeric" />
        <TextField label="Use" v-model="use" placeholder="road, hill climb, work boat" />
        <TextField label="rpm band from" v-model="low" inputmode="numeric" place="band_low_rpm" />
        <TextField label="rpm band to" v-model="high" inputmode="numeric" place="band_high_rpm" />
        <CheckField v-model="engine.boosted" label="Boosted" />
        <TextField v-if="engine.boosted" label="Boost, kPa" v-model="engine.boost" place="engine.boost_kpa" />
        <TextField
          v-if="Number(engine.banks) > 1"
          wide
          label="Cylinders by bank, if not numbered bank by bank: 1 3 5 7 / 2 4 6 8"
          v-model="engine.numbered"
          place="banks"
        />
        <fieldset v-if="drawn" class="wide shapes">
          <legend>Stock air path</legend>
          <button
            v-for="s in shapes"
            :key="s.name"
            type="button"
            class="way"
            :aria-pressed="s.name === drawn.name"
            @click="shape = s.name"
          >
            {{ s.name }}
          </button>
          <AirPath :tree="drawn.path" size="band" :height="pathHeight" :label="`Air path: ${drawn.name}`" />
        </fieldset>
      </template>
      <ProblemNote v-if="problem" class="wide" :problem="problem" />
      <Button type="submit" class="wide go">
        {{ posted ? 'Start and go to bench' : 'Start job' }} <KeyCap k="Enter" />
      </Button>
      <p v-if="posted" class="wide quiet narrow">
        You can add weather, sizes and engine later. Depression is set to 28 inH2O.
      </p>
    </form>
  </div>
</template>

<style scoped>
.new-job {
  padding: 0 28px;
}
header {
  display: flex;
  gap: 18px;
  align-items: center;
  padding: 14px 0 12px;
  border-bottom: 1px solid var(--hair);
}
header a {
  text-decoration: none;
}
.space {
  flex: 1;
}
.shapes {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin: 0;
  padding: 0;
  border: 0;
}
.shapes legend {
  padding: 0 0 4px;
  font: 500 15px var(--narrow);
}
.shapes :last-child {
  flex-basis: 100%;
}
.shapes [aria-pressed='true'] {
  border-color: var(--dye);
  background: var(--dye-wash);
  font-weight: 600;
}
form {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 14px 22px;
  max-width: 620px;
  margin: 26px auto;
}
.wide {
  grid-column: 1 / -1;
}
.go {
  justify-content: space-between;
  font-size: 18px;
  padding: 12px 18px;
}
</style>
