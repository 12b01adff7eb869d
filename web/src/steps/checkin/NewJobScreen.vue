<script setup lang="ts">
/**
 * A new job: what kind it is, and what shapes it. A part that came by post needs a name and its number of runners, and
 * the first figure comes right after; of an engine the rest is asked at check-in.
 */
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
const engine = ref({
  name: '',
  layout: 'inline',
  banks: '1',
  boosted: false,
  /** Cylinders of each bank, where they are not numbered bank by bank: "1 3 5 7 / 2 4 6 8". */
  numbered: '',
})
const shape = ref('one plenum')
const fields = { kind, part, customer, runners, engine, shape }
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
watch(
  () => engine.value.layout,
  (layout) => (engine.value.banks = layout === 'vee' || layout === 'flat' ? '2' : '1'),
)
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
    engine: posted.value ? null : engineBody(),
    shape: posted.value ? undefined : drawn.value?.name,
    banks: banked.value.map((bank) => (bank.match(/\d+/g) ?? []).map(Number)),
  }
  try {
    await told(api.PUT('/api/jobs/{job_id}', { params: { path: { job_id: id } }, body }))
    for (const name of Object.keys(fields)) forgetDraft(`new-job.${name}`)
    await router.push(`/jobs/${id}/${posted.value ? 'bench' : 'checkin'}`)
  } catch (error) {
    problem.value = problemIn(error, 'Your entry is still here; press Enter to retry.')
  }
}

function engineBody() {
  const e = engine.value
  return {
    name: e.name.trim() || part.value.trim(),
    layout: e.layout,
    bank_count: sent(e.banks) ?? 1,
    boosted: e.boosted,
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
      <fieldset class="wide kinds">
        <legend>Job type</legend>
        <label v-for="k in shop?.kinds ?? []" :key="k.code" :class="{ on: k.code === kind }">
          <input v-model="kind" type="radio" name="kind" :value="k.code" />{{ k.title }}
        </label>
      </fieldset>
      <TextField label="Part" wide v-model="part" focus place="part" placeholder="e.g. cast manifold" />
      <TextField label="Customer (optional)" v-model="customer" />
      <TextField label="Runners" v-model="runners" inputmode="numeric" place="runner_count" />
      <template v-if="!posted">
        <TextField label="Engine" v-model="engine.name" placeholder="its name, if it has one" />
        <ChoiceField label="Layout" v-model="engine.layout" :options="LAYOUTS" />
        <TextField label="Banks" v-model="engine.banks" place="engine.bank_count" inputmode="numeric" />
        <TextField
          v-if="Number(engine.banks) > 1"
          label="Cylinders by bank, if not in order: 1 3 5 7 / 2 4 6 8"
          v-model="engine.numbered"
          place="banks"
        />
        <CheckField v-model="engine.boosted" label="Boosted" />
        <fieldset v-if="drawn" class="wide shapes">
          <legend>How is the air path of stock laid out?</legend>
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
        {{ posted ? 'Start and go to bench' : 'Start and go to check-in' }} <KeyCap k="Enter" />
      </Button>
      <p class="wide quiet narrow">
        {{
          posted
            ? 'You can add weather, sizes and engine later. Depression is set to 28 inH2O.'
            : 'Bore, stroke, limit, band and goal are asked there, one after the other.'
        }}
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
.kinds {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
  margin: 0;
  padding: 0;
  border: 0;
}
.kinds label {
  display: flex;
  gap: 6px;
  align-items: center;
  padding: 4px 0;
  cursor: pointer;
}
.kinds .on {
  font-weight: 600;
}
.kinds input {
  accent-color: var(--dye);
}
.kinds legend,
.shapes legend {
  padding: 0 0 4px;
  font: 500 15px var(--narrow);
}
.shapes {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin: 0;
  padding: 0;
  border: 0;
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
