<script setup lang="ts">
/** Tests of a job, making a new one, and what single items of the set-ups do. */
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { api, newId, problemIn, told } from '@/api/client'
import { useSheet } from '@/api/sheet'
import ChoiceField from '@/ui/ChoiceField.vue'
import { figure } from '@/ui/figures'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import { useSession } from '@/frame/session'
import TextField from '@/ui/TextField.vue'
import { useJob } from '@/frame/job'
import EffectList from './EffectList.vue'
import { seriesFor, type SeriesForm } from './series'
import SeriesFields from './SeriesFields.vue'
import NotShown from '@/ui/NotShown.vue'

const { id: jobId, changed } = useJob()
const { units, personId } = useSession()
const router = useRouter()
const { sheet: asked, failure } = useSheet(ask, [units, changed])
const cards = computed(() => asked.value?.cards)
const choices = computed(() => asked.value?.choices)
const sheet = computed(() => asked.value?.sheet)
const effects = computed(() => asked.value?.effects ?? [])
const kind = ref('opening')
const target = ref(0)
const places = ref('')
const bore = ref('')
const series = ref<SeriesForm[]>([])
const refusal = ref('')

const chosen = computed(() => choices.value?.kinds.find((k) => k.kind === kind.value))
const flowed = computed(() => choices.value?.targets[target.value])
const targets = computed(() => (choices.value?.targets ?? []).map((t, i) => ({ label: t.label, value: i })))

async function ask() {
  const path = { job_id: jobId }
  const query = { units: units.value }
  const [cards, choices, sheet, effects] = await Promise.all([
    told(api.GET('/api/jobs/{job_id}/tests', { params: { path } })),
    told(api.GET('/api/jobs/{job_id}/test-choices', { params: { path } })),
    told(api.GET('/api/jobs/{job_id}/bench', { params: { path, query } })),
    told(api.GET('/api/jobs/{job_id}/bench/effects', { params: { path, query } })),
  ])
  return { cards, choices, sheet, effects }
}
watch([chosen, flowed], () => {
  places.value = chosen.value?.axis ? chosen.value.usual.join(', ') : ''
  series.value = seriesFor(kind.value, flowed.value?.states ?? [])
})

async function make(): Promise<void> {
  if (!flowed.value || !sheet.value) return
  const setup = sheet.value.setup
  if (!setup) {
    refusal.value = 'Note the set-up on the bench first: a test starts from it.'
    return
  }
  const id = newId()
  const typed = places.value.split(/[,;\s]+/).filter(Boolean)
  const wrong = typed.find((word) => figure(word) === null)
  if (wrong) {
    refusal.value = `'${wrong}' is no ${chosen.value?.axis}. Type figures, parted by a comma.`
    return
  }
  try {
    await told(
      api.PUT('/api/tests/{plan_id}', {
        params: { path: { plan_id: id } },
        body: {
          person_id: personId.value,
          job_id: jobId,
          kind: kind.value,
          setup_id: setup.id,
          element_kind: flowed.value.element_kind,
          cylinder: flowed.value.cylinder,
          series: series.value.map(({ label, part_state_id, changes }) => ({
            label,
            part_state_id,
            changes,
          })),
          places: typed.flatMap((word) => figure(word) ?? []),
          bore: bore.value,
        },
      }),
    )
  } catch (error) {
    refusal.value = problemIn(error, 'Try again.').detail
    return
  }
  await router.push(`/jobs/${jobId}/tests/${id}`)
}

useKeys([{ key: 'b', says: 'back to the bench', run: () => void router.push(`/jobs/${jobId}/bench`) }])
</script>

<template>
  <div v-if="cards && choices" class="tests">
    <section aria-label="Tests">
      <h2>Bench tests</h2>
      <ul v-if="cards.length" class="cards">
        <li v-for="c in cards" :key="c.id">
          <RouterLink :to="`/jobs/${jobId}/tests/${c.id}`">{{ c.title }}</RouterLink>
          <span class="narrow quiet">{{ c.target }}</span>
          <span class="mono" :class="{ open: c.read < c.of }">{{ c.read }} of {{ c.of }}</span>
        </li>
      </ul>
      <p v-else class="quiet">No tests yet: throttle sweep, lift curve, or A-B-B-A copy check.</p>
      <EffectList :effects="effects" />
      <p class="narrow">
        <RouterLink :to="`/jobs/${jobId}/bench`"><KeyCap k="B" /> back to the bench</RouterLink>
      </p>
    </section>
    <form class="make" aria-label="New test" @submit.prevent="make">
      <h2>New test</h2>
      <ChoiceField v-model="kind" label="Kind" :options="choices.kinds" shown="title" kept="kind" />
      <ChoiceField v-model="target" label="Component" :options="targets" />
      <TextField
        v-if="chosen?.axis"
        v-model="places"
        :label="`${chosen.axis}, ${chosen.axis_unit}, in order`"
        wide
      />
      <TextField
        v-if="kind === 'swirl' || kind === 'lift'"
        v-model="bore"
        :label="kind === 'swirl' ? 'Cylinder bore' : 'Valve diameter, for the flow coefficient'"
        wide
        placeholder="84 mm"
      />
      <SeriesFields v-model="series" :states="flowed?.states ?? []" class="wide" />
      <p v-if="refusal" class="harm wide" role="alert">{{ refusal }}</p>
      <Button type="submit" class="wide">Start this test <KeyCap k="Enter" /></Button>
      <p class="quiet narrow wide">
        Uses the saved bench set-up{{ sheet?.setup ? '' : ' (none yet: press U at the bench)' }}.
      </p>
    </form>
  </div>
  <NotShown v-else :why="failure" />
</template>

<style scoped>
.tests {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 600px;
  gap: 36px;
  padding: 20px 28px;
  overflow-y: auto;
}
section {
  display: grid;
  align-content: start;
  gap: 14px;
}
.cards {
  margin: 0;
  padding: 0;
  list-style: none;
}
.cards li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 90px 84px;
  gap: 12px;
  align-items: baseline;
  padding: 8px 0;
  border-top: 1px solid var(--hair);
}
.cards a {
  font-weight: 600;
  font-size: 18px;
}
.cards .open {
  color: var(--dye);
  font-weight: 600;
}
.make {
  display: grid;
  grid-template-columns: 1fr 1fr;
  align-content: start;
  gap: 10px 14px;
}
.make h2,
.wide {
  grid-column: 1 / -1;
}
@media (max-width: 1000px) {
  .tests {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
