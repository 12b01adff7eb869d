<script setup lang="ts">
/** The bolts of a flange as they are: tapped or typed where they sit, what they are, what they go through and into. */
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
import { placeLine, placesOf, tapped, type Place } from './flange'
import FlangePlate from './FlangePlate.vue'

const props = defineProps<{
  jobId: string
  sheet: Schemas['BoltSheet']
  map?: Schemas['BoltMapView']
}>()
const emit = defineEmits<{ saved: []; leave: [] }>()
const { personId } = useSession()
const problem = ref<Problem>()
provideRefusal(problem)
const version = ref(props.map?.version ?? 0)
const known = props.map?.typed ?? {}
const form = reactive({
  name: known['name'] ?? 'Manifold flange',
  thread: known['thread'] ?? 'M8',
  bolt_class: known['bolt_class'] ?? '8.8',
  lubrication: known['lubrication'] ?? 'oiled',
  drive: known['drive'] ?? 'hex head',
  into: known['into'] ?? props.sheet.materials[0] ?? '',
  stack_mm: known['stack_mm'] ?? '',
  washers_mm: known['washers_mm'] ?? '0',
  depth_mm: known['depth_mm'] ?? '',
  length_mm: known['length_mm'] ?? '',
  torque: known['torque'] ?? '',
  torque_source: known['torque_source'] ?? '',
})
const forming = ref(props.map?.forming ?? false)
const line = ref(placeLine(props.map?.bolts ?? []))
const places = computed(() => placesOf(line.value))
const tap = (at: Place) => (line.value = placeLine(tapped(places.value, at)))
/** The bolt that is spoken of, and what is its own: what reaches it, its length where it is another. */
const at = ref<number>()
const pick = (n: number) => (at.value = n === at.value ? undefined : n)
const TOOLS = ['socket', 'socket, long', 'crow foot', 'straight key', 'ball end']
interface Own {
  tool: string
  length_mm: string
}
const keyOf = (p: Place) => `${p.x_mm} ${p.y_mm}`
const own = reactive(
  new Map<string, Own>(
    (props.map?.bolts ?? []).map((b) => [keyOf(b), { tool: b.tool, length_mm: `${b.length_mm ?? ''}` }]),
  ),
)
const ownOf = (p: Place): Own => own.get(keyOf(p)) ?? { tool: '', length_mm: '' }
const drawn = computed(() =>
  places.value.map((p, n) => ({ ...p, number: n + 1, length_mm: Number(ownOf(p).length_mm) || null })),
)
const here = computed(() => (at.value == null ? undefined : places.value[at.value]))
function say(change: Partial<Own>): void {
  if (here.value) own.set(keyOf(here.value), { ...ownOf(here.value), ...change })
}
const sayAll = () => {
  const { tool } = here.value ? ownOf(here.value) : { tool: '' }
  for (const p of places.value) own.set(keyOf(p), { ...ownOf(p), tool })
}
function takeAway(): void {
  if (at.value != null) line.value = placeLine(places.value.toSpliced(at.value, 1))
  at.value = undefined
}
const choices = (words: readonly string[]) => words.map((value) => ({ label: value, value }))

async function save(patch: Record<string, unknown> = {}): Promise<void> {
  for (const name of ['length_mm', 'torque'] as const)
    if (typeof patch[name] === 'string') form[name] = patch[name]
  const bolts = {
    ...form,
    forming: forming.value,
    washers_mm: sent(form.washers_mm) ?? 0,
    depth_mm: sent(form.depth_mm),
    places: places.value.map((p) => ({ ...p, tool: ownOf(p).tool, length_mm: sent(ownOf(p).length_mm) })),
    accepted: (patch['accepted'] as string[] | undefined) ?? [],
  } as never
  try {
    if (props.map)
      await told(
        api.PATCH('/api/bolt-maps/{map_id}', {
          params: { path: { map_id: props.map.id } },
          body: { version: version.value, bolts },
        }),
      )
    else
      await told(
        api.PUT('/api/bolt-maps/{map_id}', {
          params: { path: { map_id: newId() } },
          body: { person_id: personId.value, job_id: props.jobId, bolts },
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
  <form class="form" aria-label="Bolts" @submit.prevent="save()" @keydown.esc="emit('leave')">
    <h3>Where they sit: tap each bolt; tap one again for its tool, its length, or to take it away</h3>
    <FlangePlate :bolts="drawn" :at="at" @tap="tap" @pick="pick" />
    <div v-if="here" class="own" role="group" :aria-label="`Bolt ${(at ?? 0) + 1}`">
      <b>Bolt {{ (at ?? 0) + 1 }}</b>
      <TextField
        :model-value="ownOf(here).tool"
        label="Reached with"
        small
        @update:model-value="(tool: string) => say({ tool })"
      />
      <TextField
        :model-value="ownOf(here).length_mm"
        label="Its length, mm, where another"
        small
        @update:model-value="(length_mm: string) => say({ length_mm })"
      />
      <span class="ways">
        <button v-for="t in TOOLS" :key="t" type="button" class="way" @click="say({ tool: t })">
          {{ t }}
        </button>
        <button type="button" class="way" @click="sayAll">this tool for all</button>
        <button type="button" class="way" @click="takeAway">Take it away</button>
      </span>
    </div>
    <div class="fields">
      <TextField v-model="form.name" label="Flange" focus place="bolts.name" />
      <TextField
        v-model="line"
        label="Or typed: x y of each in mm, a comma between"
        placeholder="-80 -45, -40 -45, 0 -45"
        class="span"
        place="bolts.places"
      />
      <ChoiceField v-model="form.thread" label="Thread" :options="choices(sheet.threads)" />
      <ChoiceField v-model="form.bolt_class" label="Class on its head" :options="choices(sheet.classes)" />
      <ChoiceField v-model="form.drive" label="Head and drive" :options="choices(sheet.drives)" />
      <ChoiceField v-model="form.lubrication" label="On the thread" :options="choices(sheet.lubrications)" />
      <ChoiceField v-model="form.into" label="Cut into" :options="choices(sheet.materials)" />
      <TextField v-model="form.stack_mm" label="Stack clamped, mm" place="bolts.stack_mm" />
      <TextField v-model="form.washers_mm" label="Washers, mm" place="bolts.washers_mm" />
      <TextField
        v-model="form.depth_mm"
        label="Thread in its hole, mm"
        placeholder="open: empty"
        place="bolts.depth_mm"
      />
      <TextField v-model="form.length_mm" label="Bolt, mm under its head" place="bolts.length_mm" />
      <TextField
        v-model="form.torque"
        label="Torque: 22 N·m, 18 lbf·ft"
        placeholder="computed"
        place="bolts.torque"
      />
      <TextField v-model="form.torque_source" label="Whose torque" placeholder="maker, sheet F5-3" />
      <label class="forming"
        ><input v-model="forming" type="checkbox" /> thread-forming: cuts its own thread</label
      >
    </div>
    <div class="ways">
      <Button type="submit" size="small">Save <KeyCap k="Enter" /></Button>
      <Button size="small" outlined @click="emit('leave')">Cancel <KeyCap k="Esc" /></Button>
    </div>
    <ProblemNote v-if="problem" :problem="problem" :stale="stale" @choose="save" />
  </form>
</template>

<style scoped>
.form {
  display: grid;
  gap: 10px;
  max-width: 760px;
}
.fields {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 8px 12px;
}
.fields > .span {
  grid-column: span 2;
}
.fields :deep(input) {
  width: 100%;
}
.forming {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 44px;
}
.fields .forming input {
  width: auto;
}
.own {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: end;
}
@media (max-width: 760px) {
  .fields {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
}
</style>
