<script setup lang="ts">
/** What the part is to become: stations, the law of the areas, walls, lands, recipe. */
import Button from 'primevue/button'
import { computed, reactive, ref } from 'vue'
import { api, newId, problemIn, told, type Problem, type Schemas } from '@/api/client'
import KeyCap from '@/frame/KeyCap.vue'
import { useSession } from '@/frame/session'
import ChoiceField from '@/ui/ChoiceField.vue'
import { sent } from '@/ui/figures'
import ProblemNote from '@/ui/ProblemNote.vue'
import { provideRefusal } from '@/ui/refusal'
import { staleWays } from '@/ui/stale'
import TextField from '@/ui/TextField.vue'
import { pieceLines, piecesOf, recipeRounds, roundLines, zoneLines, zonesOf } from './plan'

const props = defineProps<{ jobId: string; partId: string; plan: Schemas['PortPlanView'] }>()
const emit = defineEmits<{ saved: []; leave: [] }>()
const { personId } = useSession()
const problem = ref<Problem>()
provideRefusal(problem)
const version = ref(props.plan.version)
const text = (value: number | null | undefined) => value?.toString() ?? ''
const form = reactive({
  material: props.plan.material_stated ? props.plan.material : '',
  stations: props.plan.stations_mm.join(' '),
  law: props.plan.law,
  area: text(props.plan.takes.area_mm2),
  taper: text(props.plan.takes.taper_deg || null),
  rpm: text(props.plan.takes.rpm),
  velocity: text(props.plan.takes.velocity_m_s),
  byHand: (props.plan.takes.by_hand ?? []).map((one) => `${one.at_mm}: ${one.area_mm2}`).join(', '),
  bell: text(props.plan.takes.bell_mm || null),
  reach: text(props.plan.reach_mm),
  least: text(props.plan.least_wall_mm),
  zones: zoneLines(props.plan.zones),
  jet: props.plan.jet_runners.join(' '),
  pieces: pieceLines(props.plan.pieces),
  recipe: props.plan.recipe.name ?? '',
  finish: props.plan.recipe.finish ?? 'even',
  rounds: roundLines(props.plan.recipe.rounds ?? []),
  number: props.plan.recipe.number ?? null,
})
const shops = computed(() => [
  { label: 'own', value: '' },
  ...props.plan.recipes.map((r) => ({
    label: `${r.recipe.name}, version ${r.number}`,
    value: r.recipe.name,
  })),
])
const taken = ref('')
const said = ref('')
/** One of the shop's recipes, as it stands: from here on it is the job's own. */
function take(name: string): void {
  const found = props.plan.recipes.find((r) => r.recipe.name === name)
  taken.value = name
  if (!found) return
  form.recipe = found.recipe.name ?? ''
  form.finish = found.recipe.finish ?? 'even'
  form.rounds = roundLines(found.recipe.rounds ?? [])
  form.number = found.number
}
const recipe = () => ({
  name: form.recipe,
  finish: form.finish,
  rounds: recipeRounds(form.rounds),
  number: form.number,
})
async function keepForShop(patch: Record<string, unknown> = {}): Promise<void> {
  asked.value = keepForShop
  const accepted = (patch['accepted'] as string[] | undefined) ?? []
  try {
    await told(
      api.PUT('/api/port-recipes/{recipe_id}', {
        params: { path: { recipe_id: newId() } },
        body: { person_id: personId.value, recipe: recipe() as never, accepted },
      }),
    )
    problem.value = undefined
    said.value = `“${form.recipe}” is kept for the shop.`
  } catch (caught) {
    problem.value = problemIn(caught, 'The recipe is not kept. Try again.')
  }
}
/** What an offer is an answer to. */
const asked = ref<(patch: Record<string, unknown>) => Promise<void>>()
const choices = (words: readonly string[]) => words.map((value) => ({ label: value, value }))
const finishes = computed(() =>
  Object.entries(props.plan.finishes).map(([value, label]) => ({ label, value })),
)
const AREA = ['constant area', 'taper', 'to the head port']
const words = (line: string) => line.split(/[\s,;]+/).filter(Boolean)

function body(accepted: string[]) {
  const byHand = form.byHand
    .split(',')
    .map((one) => one.split(':').map((side) => side.trim()))
    .filter((pair) => pair.length === 2 && pair[0])
    .map(([at_mm, area_mm2]) => ({ at_mm, area_mm2 }))
  return {
    material: form.material,
    stations: words(form.stations),
    law: form.law,
    takes: {
      area_mm2: sent(form.area),
      taper_deg: sent(form.taper) ?? 0,
      rpm: sent(form.rpm),
      velocity_m_s: sent(form.velocity),
      by_hand: byHand,
      bell_mm: sent(form.bell) ?? 0,
    },
    reach_mm: sent(form.reach) ?? 150,
    least_wall_mm: sent(form.least),
    zones: zonesOf(form.zones),
    jet_runners: words(form.jet).map(Number).filter(Number.isInteger),
    recipe: recipe(),
    pieces: piecesOf(form.pieces),
    accepted,
  } as never
}

async function save(patch: Record<string, unknown> = {}): Promise<void> {
  asked.value = save
  const plan = body((patch['accepted'] as string[] | undefined) ?? [])
  try {
    if (props.plan.id)
      await told(
        api.PATCH('/api/port-plans/{plan_id}', {
          params: { path: { plan_id: props.plan.id } },
          body: { version: version.value, plan },
        }),
      )
    else
      await told(
        api.PUT('/api/port-plans/{plan_id}', {
          params: { path: { plan_id: newId() } },
          body: { person_id: personId.value, job_id: props.jobId, part_id: props.partId, plan },
        }),
      )
    emit('saved')
  } catch (caught) {
    problem.value = problemIn(caught, 'Your entry is still here; press Enter to retry.')
  }
}
const stale = staleWays(problem, version, save, () => emit('saved'))
</script>

<template>
  <form class="plan" aria-label="Target" @submit.prevent="save()" @keydown.esc="emit('leave')">
    <h3>Target and limits</h3>
    <div class="fields">
      <ChoiceField v-model="form.law" class="law" label="Areas follow" :options="choices(plan.laws)" />
      <TextField
        v-if="AREA.includes(form.law)"
        v-model="form.area"
        :label="form.law === 'to the head port' ? 'Head port, mm²' : 'Area at the entry, mm²'"
        place="plan.takes.area_mm2"
      />
      <TextField
        v-if="form.law === 'taper'"
        v-model="form.taper"
        label="Taper, ° included"
        place="plan.takes.taper_deg"
      />
      <template v-if="form.law === 'constant velocity'">
        <TextField v-model="form.rpm" label="At rpm" place="plan.takes.rpm" />
        <TextField v-model="form.velocity" label="Mean velocity, m/s" place="plan.takes.velocity_m_s" />
      </template>
      <TextField
        v-if="form.law === 'by hand'"
        v-model="form.byHand"
        label="Place: area, in mm and mm²"
        placeholder="0: 1400, 90: 1350"
        wide
        place="plan.takes.by_hand."
      />
      <TextField v-model="form.bell" label="Entry bell, mm radius" focus place="plan.takes.bell_mm" />
      <ChoiceField v-model="form.material" label="Material" :options="choices(plan.materials)" />
      <TextField
        v-model="form.least"
        label="Least wall, mm"
        placeholder="usual: 3, water 4"
        place="plan.least_wall_mm"
      />
      <TextField v-model="form.reach" label="Tool reaches, mm" place="plan.reach_mm" />
      <TextField v-model="form.stations" label="Stations, mm in from the entry" wide place="plan.stations" />
      <TextField
        v-model="form.zones"
        label="No metal off: land, boss or weld, from-to mm, runner"
        placeholder="land 0-8, boss 120-140 runner 3"
        wide
        place="plan.zones."
      />
      <TextField
        v-model="form.pieces"
        label="Pieces along a runner, and where each ends, mm in"
        placeholder="upper half to 120, lower half to 310"
        wide
        place="plan.pieces."
      />
      <TextField v-model="form.jet" label="Runners in the jet" placeholder="3" />
      <ChoiceField
        v-if="plan.recipes.length"
        :model-value="taken"
        label="Take a recipe of the shop"
        :options="shops"
        @update:model-value="take"
      />
      <TextField v-model="form.recipe" label="Recipe" />
      <ChoiceField v-model="form.finish" label="Surface" :options="finishes" />
      <TextField
        v-model="form.rounds"
        label="Rounds in order: name, × times, min a runner"
        wide
        place="plan.recipe.rounds"
      />
    </div>
    <div class="ways">
      <Button type="submit" size="small">Save <KeyCap k="Enter" /></Button>
      <Button size="small" outlined @click="emit('leave')">Cancel <KeyCap k="Esc" /></Button>
      <Button size="small" text @click="keepForShop()">Keep recipe for the shop</Button>
    </div>
    <p v-if="plan.newer || said" class="quiet" role="status">{{ said || plan.newer }}</p>
    <ProblemNote v-if="problem" :problem="problem" :stale="stale" @choose="(patch) => asked?.(patch)" />
  </form>
</template>

<style scoped>
.plan {
  display: grid;
  gap: 10px;
  padding: 12px 14px;
  background: var(--sheet);
}
.fields {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 8px 12px;
}
.fields > .wide {
  grid-column: 1 / -1;
}
.fields > .law {
  grid-column: span 2;
}
.fields :deep(input) {
  width: 100%;
}
@media (max-width: 1000px) {
  .fields {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
}
</style>
