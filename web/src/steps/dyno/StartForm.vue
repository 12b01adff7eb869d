<script setup lang="ts">
/** Before a live pull: whose it is, what was looked at, and what stops it. */
import Button from 'primevue/button'
import { computed, onMounted, reactive, ref } from 'vue'
import { api, newId, now, problemIn, told, type Problem, type Schemas } from '@/api/client'
import BuildChoice from './BuildChoice.vue'
import KeyCap from '@/frame/KeyCap.vue'
import { useSession } from '@/frame/session'
import { useJob } from '@/frame/job'
import CheckField from '@/ui/CheckField.vue'
import ChoiceField from '@/ui/ChoiceField.vue'
import { vFocus } from '@/ui/focus'
import ProblemNote from '@/ui/ProblemNote.vue'
import TextField from '@/ui/TextField.vue'
import { sent } from '@/ui/figures'
import { provideRefusal } from '@/ui/refusal'

const props = defineProps<{
  designs: Schemas['DesignView'][]
  start: Schemas['StartView']
  declared: Record<string, string>
  dyno: string | undefined
}>()
const emit = defineEmits<{ begun: []; dyno: []; leave: [] }>()
const { shop, personId } = useSession()
const { id: jobId } = useJob()
const LIMITS = [
  { name: 'leanest', label: 'Leanest mixture, lambda' },
  { name: 'most_duty', label: 'Injector duty, max %' },
  { name: 'most_retard', label: 'Taken back for knock, max °' },
  { name: 'hottest_coolant', label: 'Coolant, max °C' },
  { name: 'hottest_oil', label: 'Oil, max °C' },
  { name: 'least_oil_pressure', label: 'Oil pressure, min kPa' },
] as const
const live = computed(() => (shop.value?.dynos ?? []).filter((d) => d.line))
const dynoId = ref(live.value.find((d) => d.id === props.dyno)?.id ?? live.value[0]?.id ?? '')
const buildId = ref(props.designs.find((d) => !d.pulls)?.build_id ?? props.designs.at(-1)?.build_id ?? '')
const ticked = reactive<Record<string, boolean>>({})
const idle = ref('')
const limits = reactive(
  Object.fromEntries(LIMITS.map((l) => [l.name, String(props.start.limits[l.name] ?? '')])),
)
const accepted = ref<string[]>([])
const problem = ref<Problem>()
provideRefusal(problem)
const changed = computed(
  () => props.start.changed.includes(buildId.value) || problem.value?.path === 'checked',
)
const design = computed(() => props.designs.find((d) => d.build_id === buildId.value))
const form = ref<HTMLElement>()
/** The cursor stands at the first thing to look at, else at the start. */
onMounted(() => form.value?.querySelector<HTMLElement>('.looks input, [type=submit]')?.focus())

async function begin(): Promise<void> {
  problem.value = undefined
  const body = {
    person_id: personId.value,
    job_id: jobId,
    build_id: buildId.value,
    dyno_id: dynoId.value,
    started_at: now(),
    declared: props.declared,
    limits: Object.fromEntries(LIMITS.map((l) => [l.name, sent(limits[l.name] ?? '')])),
    checked: props.start.items.map((i) => i.word).filter((word) => ticked[word]),
    idle_rpm: sent(idle.value),
    accepted: accepted.value,
  }
  try {
    await told(
      api.PUT('/api/recordings/{recording_id}', { params: { path: { recording_id: newId() } }, body }),
    )
    emit('begun')
  } catch (error) {
    problem.value = problemIn(error, 'Nothing was started; try again.')
  }
}

function choose(patch: Record<string, unknown>): void {
  accepted.value = (patch['accepted'] as string[] | undefined) ?? accepted.value
  void begin()
}
</script>

<template>
  <form v-if="live.length" ref="form" class="start" @submit.prevent="begin" @keydown.esc="emit('leave')">
    <h2>Live pull of {{ design?.name }}</h2>
    <BuildChoice v-model="buildId" :designs="designs" label="Whose pull" />
    <fieldset v-if="changed" :class="{ harm: problem?.path === 'checked' }">
      <legend>Parts were changed: look before the start</legend>
      <div class="looks">
        <CheckField
          v-for="item in start.items"
          :key="item.word"
          :label="item.says"
          :model-value="ticked[item.word] ?? false"
          @update:model-value="ticked[item.word] = !!$event"
        />
      </div>
      <TextField v-model="idle" label="It idles at, rpm" small placeholder="not noted" place="idle_rpm" />
    </fieldset>
    <fieldset class="limits">
      <legend>The load goes off beyond; empty is not watched</legend>
      <TextField
        v-for="l in LIMITS"
        :key="l.name"
        v-model="limits[l.name]!"
        :label="l.label"
        small
        placeholder="not watched"
        :place="`limits.${l.name}`"
      />
    </fieldset>
    <ChoiceField v-model="dynoId" label="Dyno" small :options="live" shown="name" kept="id" />
    <ProblemNote
      v-if="problem"
      :problem="problem"
      give-up="do not start"
      @choose="choose"
      @give-up="emit('leave')"
    />
    <p class="quiet narrow">
      The stop on this screen takes the load off through the dyno's own connection. Keep a hand at the dyno's
      own stop and at the ignition.
    </p>
    <div class="end">
      <Button type="submit">Start the pull <KeyCap k="Enter" /></Button>
      <Button outlined @click="emit('leave')">Leave it <KeyCap k="Esc" /></Button>
    </div>
  </form>
  <div v-else class="start" tabindex="-1" @keydown.esc="emit('leave')">
    <h2>No dyno has a connection yet</h2>
    <p>Say where yours answers; pulls then come in by themselves. Without one, drop its files here.</p>
    <div class="end">
      <Button v-focus @click="(emit('leave'), emit('dyno'))">Connect a dyno <KeyCap k="Enter" /></Button>
      <Button outlined @click="emit('leave')">Leave it <KeyCap k="Esc" /></Button>
    </div>
  </div>
</template>

<style scoped>
.start {
  display: grid;
  gap: 14px;
  align-content: start;
  max-width: 860px;
}
.end {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
}
fieldset {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 8px 18px;
  align-items: start;
  margin: 0;
  padding: 10px 0 0;
  border: 0;
  border-top: 1px solid var(--hair);
}
legend {
  padding: 0 10px 0 0;
  font: 600 16px var(--narrow);
}
fieldset :deep(.field) {
  align-content: start;
}
.looks {
  display: grid;
  grid-column: 1 / 3;
  gap: 6px;
}
@media (max-width: 1000px) {
  fieldset {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
}
</style>
