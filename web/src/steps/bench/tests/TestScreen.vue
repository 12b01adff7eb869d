<script setup lang="ts">
/** A test under way: the point to set up next, its figure taken like any other, and the picture that it makes. */
import { computed, nextTick, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, newId, now, told, whileReachable, type Schemas } from '@/api/client'
import { send, useOutbox, type About } from '@/api/outbox'
import { useSheet } from '@/api/sheet'
import ClockMap from '@/charts/ClockMap.vue'
import CurvePlate from '@/charts/CurvePlate.vue'
import PointRows from '@/charts/PointRows.vue'
import { useJob } from '@/frame/job'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import { useSession } from '@/frame/session'
import type { LiveState } from '@/taking/live'
import { toggleSound } from '@/taking/sound'
import TakePanel from '@/taking/TakePanel.vue'
import { useTaking } from '@/taking/useTaking'
import KeyRow from '@/ui/KeyRow.vue'
import Margin from '@/ui/Margin.vue'
import NotShown from '@/ui/NotShown.vue'
import Screen from '@/ui/Screen.vue'

const props = defineProps<{ planId: string }>()
const { id: jobId, changed } = useJob()
const { units, personId, shop } = useSession()
const { onSent, writes } = useOutbox()
const router = useRouter()
const {
  sheet: view,
  failure,
  load,
  loaded,
} = useSheet(
  () =>
    told(
      api.GET('/api/tests/{plan_id}', {
        params: { path: { plan_id: props.planId }, query: { units: units.value } },
      }),
    ),
  [units, changed],
)
const active = ref(0)
const list = ref<HTMLElement>()

const point = computed(() => view.value?.points[active.value])
/** A probe is no bench: what it shows is typed. */
const bench = computed(() =>
  point.value?.quantity === 'Flow'
    ? shop.value?.benches.find((b) => b.id === view.value?.bench_id)
    : undefined,
)
const about = (index: number): About => ({ job: jobId, what: 'point', plan: props.planId, point: index })
const isOfTest = (one: About) => one.what === 'point' && one.plan === props.planId
const taking = useTaking({
  draft: `test.${props.planId}`,
  bench,
  isHere: (write) => isOfTest(write.about) && write.about.point === active.value,
  keep,
  step,
})
const { typed, focusEntry } = taking
const { takeable, state: liveState } = taking.live
const distinct = (found: (number | null)[]) => [...new Set(found.flatMap((place) => place ?? []))]
const places = computed(() => distinct(view.value?.points.map((p) => p.place) ?? []))
const clocks = computed(() => distinct(view.value?.points.map((p) => p.clock) ?? []))
const flows = computed(() => view.value?.points.filter((p) => p.quantity === 'Flow') ?? [])
/** A curve wants two places; a single figure of each series is a row. */
const curved = computed(() => places.value.length > 1 && view.value?.kind !== 'pitot')
const typing = computed(() => point.value?.unit_code.replace('cfm', 'CFM').replace('m3/h', 'm³/h') ?? '')
const words = computed(() => {
  if (typed.value.trim()) return `Keep ${typed.value.trim()}`
  if (takeable.value) return `Take ${takeable.value.mean?.text ?? ''}`
  return liveState.value?.state === 'speaking' ? 'Wait for samples, or type it' : `Type what it shows`
})

const stop = onSent((write) => {
  if (isOfTest(write.about)) void whileReachable(load)
})
onBeforeUnmount(stop)
onMounted(async () => {
  await loaded
  active.value = view.value?.next ?? 0
  focusEntry()
})

watch(active, () => nextTick(() => list.value?.querySelector('.on')?.scrollIntoView({ block: 'nearest' })))

/** What has no figure of its own, as it was read: a probe at rest. */
const asRead = (p: Schemas['PointView']) => (p.figure ? `${p.figure} ${p.unit_code}` : '·')

function choose(index: number): void {
  active.value = index
  focusEntry()
}
function step(by: number): void {
  choose(Math.min((view.value?.points.length ?? 1) - 1, Math.max(0, active.value + by)))
}

async function keep(text: string, taken: LiveState | undefined): Promise<void> {
  if (!view.value) return
  const at = active.value
  const body = {
    person_id: personId.value,
    plan_id: props.planId,
    point: at,
    typed: text,
    taken_at: now(),
    default_unit: view.value.points[at]?.unit_code ?? '',
    taken: taken?.taken ?? null,
  }
  const left = view.value.points.filter((p) => !p.reading_id && p.index !== at).map((p) => p.index)
  choose(left.find((index) => index > at) ?? left[0] ?? at)
  await send('/api/test-readings/{reading_id}', newId(), body, about(at), taken?.mean?.text)
  const asked = writes.value.some((w) => isOfTest(w.about) && w.about.point === at && w.problem)
  if (asked) active.value = at
}

useKeys([
  { key: 't', says: 'back to tests (saved)', run: () => void router.push(`/jobs/${jobId}/tests`) },
  { key: 'b', says: 'back to the bench', run: () => void router.push(`/jobs/${jobId}/bench`) },
  { key: 's', says: 'sound when a reading is taken', run: toggleSound },
])
</script>

<template>
  <Screen v-if="view && point">
    <template #take>
      <div>
        <p class="narrow quiet">
          {{ view.title }} · {{ view.target }} · {{ active + 1 }} of {{ view.points.length }}
        </p>
        <h2>{{ point.words }}</h2>
      </div>
      <TakePanel
        :taking="taking"
        :label="`${point.quantity} at ${point.words}, ${typing}`"
        :unit="typing"
        :placeholder="point.figure"
        :words="words"
      />
      <ol ref="list" class="points" aria-label="Points in order">
        <li v-for="p in view.points" :key="p.index" :class="{ on: p.index === active }">
          <button type="button" @click="choose(p.index)">
            <span>{{ p.words }}</span>
            <span class="mono">{{ p.value ? `${p.value.text} ${p.value.unit}` : asRead(p) }}</span>
          </button>
        </li>
      </ol>
    </template>
    <CurvePlate
      v-if="curved"
      :curves="view.curves"
      :gains="view.gains ?? []"
      :places="places"
      :axis="view.axis"
      :axis-unit="view.axis_unit"
      :unit="view.unit || 'coefficient'"
      :active="point.place ?? undefined"
    />
    <PointRows v-else-if="flows.length" :points="flows" :active="point.index" :unit="view.unit" />
    <ClockMap
      v-if="view.maps?.length"
      :curves="view.maps"
      :places="clocks"
      unit="m/s"
      :active="point.clock ?? undefined"
    />
    <KeyRow>
      <span><KeyCap k="↑ ↓" /> point</span>
      <button type="button" @click="router.push(`/jobs/${jobId}/tests`)"><KeyCap k="T" /> tests</button>
      <button type="button" @click="router.push(`/jobs/${jobId}/bench`)">
        <KeyCap k="B" /> bench settings
      </button>
    </KeyRow>
    <template #margin><Margin title="Test notes" :sentences="view.margin ?? []" /></template>
  </Screen>
  <NotShown v-else :why="failure" />
</template>

<style scoped>
.points {
  flex: 0 1 auto;
  min-height: 120px;
  overflow-y: auto;
  margin: 0;
  padding: 0;
  list-style: none;
}
.points button {
  display: flex;
  justify-content: space-between;
  width: 100%;
  padding: 4px 8px;
  border: 0;
  border-top: 1px solid var(--hair);
  background: none;
  text-align: left;
  cursor: pointer;
}
.points .on button {
  background: var(--dye-wash);
}
</style>
