<script setup lang="ts">
/** A new job. A part that came by post needs a name and its number of runners; the first figure comes right after. */
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { api, newId, problemIn, problemOf, told, type Problem } from '@/api/client'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import { figure, whole } from '@/ui/figures'
import ProblemNote from '@/ui/ProblemNote.vue'
import { useSession } from '@/frame/session'
import ShopMark from '@/frame/ShopMark.vue'
import TextField from '@/ui/TextField.vue'
import ChoiceField from '@/ui/ChoiceField.vue'

const router = useRouter()
const { shop, personId } = useSession()
const id = newId()
const kind = ref('port_by_post')
const part = ref('')
const customer = ref('')
const runners = ref('')
const title = ref('')
const engine = ref({ name: '', layout: 'inline', banks: '1', bore: '', stroke: '', limit: '' })
const use = ref('')
const low = ref('')
const high = ref('')
const problem = ref<Problem>()
const posted = computed(() => kind.value === 'port_by_post')
const LAYOUTS = ['single', 'inline', 'vee', 'flat'].map((value) => ({ label: value, value }))

function refuse(detail: string, path: string): void {
  problem.value = { ...problemOf(detail, 'invalid'), path }
}

async function make(): Promise<void> {
  problem.value = undefined
  if (!personId.value) return refuse('Say who is at the bench first, at the top right.', 'person_id')
  const count = whole(runners.value)
  if (count === null)
    return refuse(`'${runners.value}' is no number of runners. Enter 1 to 16.`, 'runner_count')
  const body = {
    person_id: personId.value,
    kind: kind.value,
    part: part.value,
    runner_count: count,
    customer: customer.value || null,
    title: title.value || null,
    engine: posted.value || !engine.value.name ? null : engineBody(),
    use: use.value || null,
    band_low_rpm: whole(low.value),
    band_high_rpm: whole(high.value),
  }
  try {
    await told(api.PUT('/api/jobs/{job_id}', { params: { path: { job_id: id } }, body }))
    await router.push(`/jobs/${id}/${posted.value ? 'bench' : 'path'}`)
  } catch (error) {
    problem.value = problemIn(error, 'What you typed stays here; press Enter again.')
  }
}

function engineBody() {
  const e = engine.value
  return {
    name: e.name,
    layout: e.layout,
    bank_count: whole(e.banks) ?? 1,
    bore_mm: figure(e.bore),
    stroke_mm: figure(e.stroke),
    limit_rpm: whole(e.limit),
  }
}

useKeys([{ key: 'Escape', says: 'back to the board', run: () => void router.push('/') }])
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
      <TextField
        label="What came in"
        wide
        v-model="part"
        focus
        :invalid="problem?.path === 'part'"
        placeholder="manifold, as it is called"
      />
      <TextField label="Customer" v-model="customer" placeholder="or none" />
      <TextField
        label="Runners"
        v-model="runners"
        inputmode="numeric"
        :invalid="problem?.path === 'runner_count'"
      />
      <ChoiceField
        label="Kind of job"
        wide
        v-model="kind"
        :options="shop?.kinds ?? []"
        shown="title"
        kept="code"
      />
      <template v-if="!posted">
        <h3 class="wide">Engine and goal: what you know of them</h3>
        <TextField label="Name of the job" wide v-model="title" :placeholder="part || 'as the part'" />
        <TextField label="Engine" wide v-model="engine.name" />
        <ChoiceField label="Layout" v-model="engine.layout" :options="LAYOUTS" />
        <TextField label="Banks" v-model="engine.banks" inputmode="numeric" />
        <TextField label="Bore, mm" v-model="engine.bore" inputmode="decimal" />
        <TextField label="Stroke, mm" v-model="engine.stroke" inputmode="decimal" />
        <TextField label="Limit, rpm" v-model="engine.limit" inputmode="numeric" />
        <TextField label="Use" v-model="use" placeholder="road, hill climb, work boat" />
        <TextField
          label="Band that matters from, rpm"
          v-model="low"
          inputmode="numeric"
          :invalid="problem?.path?.startsWith('band')"
        />
        <TextField
          label="to, rpm"
          v-model="high"
          inputmode="numeric"
          :invalid="problem?.path?.startsWith('band')"
        />
      </template>
      <ProblemNote v-if="problem" class="wide" :problem="problem" />
      <Button type="submit" class="wide go">
        {{ posted ? 'To the bench' : 'Take it in' }} <KeyCap k="Enter" />
      </Button>
      <p v-if="posted" class="wide quiet narrow">
        Weather, geometry and the engine can come later. Depression starts at 28 inH2O.
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
