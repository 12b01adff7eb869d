<script setup lang="ts">
/** A test under way: the point to set up next, its figure taken like any other, and the picture that it makes. */
import Button from 'primevue/button'
import { computed, nextTick, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { fill, get, newId, now, whileReachable, type Schemas } from '@/api/client'
import { answer, send, useOutbox, withdraw } from '@/api/outbox'
import ClockMap from '@/charts/ClockMap.vue'
import CurvePlate from '@/charts/CurvePlate.vue'
import PointRows from '@/charts/PointRows.vue'
import KeyCap from '@/shared/KeyCap.vue'
import { useKeys } from '@/shared/keys'
import Margin from '@/shared/Margin.vue'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useSession } from '@/shared/session'
import { tell, toggleSound } from '@/shared/sound'
import FigureEntry from '../bench/FigureEntry.vue'
import { useLive } from '../bench/live'
import LiveStrip from '../bench/LiveStrip.vue'
import { useJob } from '../job'

const props = defineProps<{ planId: string }>()
const { id: jobId } = useJob()
const { units, personId, shop } = useSession()
const { onSent, writes } = useOutbox()
const router = useRouter()
const view = shallowRef<Schemas['PlanView']>()
const typed = ref('')
const active = ref(0)
const entry = ref<InstanceType<typeof FigureEntry>>()
const list = ref<HTMLElement>()

const bench = computed(() =>
  view.value?.unit_code === 'inH2O' || view.value?.unit_code === 'rpm'
    ? undefined
    : shop.value?.benches.find((b) => b.id === view.value?.bench_id),
)
const live = useLive(bench, units)
const { state: liveState, strip, takeable, fresh, needed, last: lastSample } = live
const point = computed(() => view.value?.points[active.value])
const about = (index: number) => `${jobId}/test/${props.planId}/${index}`
const problem = computed(() => writes.value.find((w) => w.about === about(active.value) && w.problem))
const places = computed(() => [...new Set(view.value?.points.map((p) => p.place) ?? [])])
const typing = computed(() => view.value?.unit_code.replace('cfm', 'CFM').replace('m3/h', 'm³/h') ?? '')
const words = computed(() => {
  if (typed.value.trim()) return `Keep ${typed.value.trim()}`
  if (takeable.value) return `Take ${takeable.value.mean?.text ?? ''}`
  return liveState.value?.state === 'speaking' ? 'Wait for its samples, or type' : `Type what it shows`
})

async function load(): Promise<void> {
  await fill(view, get(`/api/tests/${props.planId}?units=${units.value}`))
}
const stop = onSent((write) => {
  if (write.about.startsWith(`${jobId}/test/${props.planId}`)) void whileReachable(load)
})
onBeforeUnmount(stop)
watch(units, load)
onMounted(async () => {
  await load()
  active.value = view.value?.next ?? 0
  focusEntry()
})

watch(active, () => nextTick(() => list.value?.querySelector('.on')?.scrollIntoView({ block: 'nearest' })))
const focusEntry = () => void nextTick(() => entry.value?.focus())
function step(by: number): void {
  active.value = Math.min((view.value?.points.length ?? 1) - 1, Math.max(0, active.value + by))
  focusEntry()
}

async function keep(): Promise<void> {
  const text = typed.value.trim()
  const taken = text ? undefined : takeable.value
  if ((!text && !taken) || problem.value || !view.value) return tell(false)
  const at = active.value
  typed.value = ''
  live.restart()
  tell()
  const body = {
    person_id: personId.value,
    plan_id: props.planId,
    point: at,
    typed: text,
    taken_at: now(),
    default_unit: view.value.unit_code,
    taken: taken?.taken ?? null,
  }
  const left = view.value.points.filter((p) => !p.reading_id && p.index !== at).map((p) => p.index)
  active.value = left.find((index) => index > at) ?? left[0] ?? at
  focusEntry()
  await send(`/api/test-readings/${newId()}`, body, about(at))
  if (writes.value.some((w) => w.about === about(at) && w.problem)) active.value = at
}

function takeBack(): void {
  if (!problem.value) return
  typed.value = String(problem.value.body['typed'])
  withdraw(problem.value.id)
  focusEntry()
}

function onKey(event: KeyboardEvent): void {
  if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
    event.preventDefault()
    step(event.key === 'ArrowDown' ? 1 : -1)
  } else if (event.key === 'Escape') {
    if (problem.value) takeBack()
    else typed.value = ''
  } else if (problem.value && !typed.value && /^[1-9]$/.test(event.key)) {
    event.preventDefault()
    const offer = problem.value.problem?.offers?.[Number(event.key) - 1]
    if (offer) void answer(problem.value.id, offer.patch)
  }
}

useKeys([
  { key: 't', says: 'all tests; this one rests', run: () => void router.push(`/jobs/${jobId}/tests`) },
  { key: 'b', says: 'back to the bench', run: () => void router.push(`/jobs/${jobId}/bench`) },
  { key: 's', says: 'a sound when a figure is taken', run: toggleSound },
])
</script>

<template>
  <div v-if="view && point" class="test">
    <section class="take" aria-label="Figure">
      <div>
        <p class="narrow quiet">
          {{ view.title }} · {{ view.target }} · {{ active + 1 }} of {{ view.points.length }}
        </p>
        <h2>{{ point.words }}</h2>
      </div>
      <FigureEntry
        ref="entry"
        v-model="typed"
        :label="`${view.quantity} at ${point.words}, ${typing}`"
        :unit="typing"
        :placeholder="liveState?.mean?.text ?? point.typed.split(' ')[0] ?? ''"
        :forming="!!takeable"
        @take="keep"
        @key="onKey"
      />
      <LiveStrip
        v-if="liveState"
        :state="liveState"
        :strip="strip"
        :fresh="fresh"
        :needed="needed"
        :last="lastSample"
      />
      <ProblemNote
        v-if="problem?.problem"
        :problem="problem.problem"
        give-up="take the figure back"
        @choose="(patch) => problem && answer(problem.id, patch)"
        @give-up="takeBack"
      />
      <Button class="keep" :disabled="(!typed.trim() && !takeable) || !!problem" @click="keep">
        <span>{{ words }}</span>
        <KeyCap k="Enter" />
      </Button>
      <ol ref="list" class="points" aria-label="Points in order">
        <li v-for="p in view.points" :key="p.index" :class="{ on: p.index === active }">
          <button type="button" @click="((active = p.index), focusEntry())">
            <span>{{ p.words }}</span>
            <span class="mono">{{ p.value ? `${p.value.text} ${p.value.unit}` : '·' }}</span>
          </button>
        </li>
      </ol>
    </section>
    <section class="picture">
      <CurvePlate
        v-if="['opening', 'lift', 'swirl'].includes(view.kind)"
        :curves="view.curves"
        :gains="view.gains ?? []"
        :places="places"
        :axis="view.axis"
        :axis-unit="view.axis_unit"
        :unit="view.unit || 'coefficient'"
        :active="point.place"
      />
      <ClockMap
        v-else-if="view.kind === 'pitot'"
        :curves="view.curves"
        :places="places"
        :unit="view.unit"
        :active="point.place"
      />
      <PointRows v-else :points="view.points" :active="point.index" :unit="view.unit" />
      <div class="keys narrow">
        <span><KeyCap k="↑ ↓" /> point</span>
        <button type="button" @click="router.push(`/jobs/${jobId}/tests`)">
          <KeyCap k="T" /> rest, all tests
        </button>
        <button type="button" @click="router.push(`/jobs/${jobId}/bench`)"><KeyCap k="B" /> bench</button>
      </div>
    </section>
    <Margin title="What the test says" :sentences="view.margin ?? []" />
  </div>
</template>

<style scoped>
.test {
  display: grid;
  grid-template-columns: 372px minmax(0, 1fr) 280px;
  min-height: 0;
}
.take {
  display: flex;
  flex-direction: column;
  gap: 12px;
  min-height: 0;
  padding: 18px 0 18px 28px;
}
.take > * {
  flex: none;
}
.keep {
  justify-content: space-between;
  padding: 15px 18px;
  font-size: 19px;
}
.take .points {
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
.picture {
  padding: 18px 18px 14px 30px;
  min-width: 0;
  overflow-y: auto;
}
.keys {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  padding-top: 12px;
  font-size: 15px;
}
.keys button {
  padding: 0;
  border: 0;
  background: none;
  cursor: pointer;
  font: inherit;
}
@media (max-width: 1000px) {
  .test {
    grid-template-columns: minmax(0, 1fr);
  }
  .take,
  .picture {
    padding: 16px 20px 8px;
  }
}
</style>
