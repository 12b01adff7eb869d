<script setup lang="ts">
/** A pull while it is recorded: what the dyno shows, how near each limit is, the sweep over stock, and the stop. */
import { computed, ref } from 'vue'
import { api, problemIn, told, type Schemas } from '@/api/client'
import LivePlate from '@/charts/LivePlate.vue'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import { useSession } from '@/frame/session'
import { useLivePull } from './useLivePull'

const props = defineProps<{
  recording: Schemas['RecordingView']
  plate: Schemas['DesignsPlate'] | undefined
  /** The name of the plate's basis, and the dynos of its pulls: only what is alike is drawn beside this pull. */
  basis: string
  dynos: string[]
  designs: Schemas['DesignView'][]
  height: number
}>()
const { personId, units } = useSession()
const { state, points, lost } = useLivePull(props.recording.id, units.value)
const quantity = ref<'power' | 'torque'>('power')
const stopping = ref(false)
const error = ref('')
const alike = computed(
  () => state.value?.standard === props.basis && props.dynos.every((id) => id === props.recording.dyno_id),
)
const unlike = computed(() =>
  state.value?.standard && props.plate && !alike.value
    ? 'The earlier pulls stand on another basis or dyno: they are not drawn beside this one.'
    : '',
)
const stock = computed(() => (alike.value ? props.plate?.curves.find((c) => c.is_reference) : undefined))
const earlier = computed(() =>
  !alike.value
    ? undefined
    : props.plate?.curves.find((c) => c.build_id === props.recording.build_id && !c.is_reference),
)
const unitsShown = computed(() => ({
  power: state.value?.power?.unit ?? props.plate?.power_unit ?? '',
  torque: state.value?.torque?.unit ?? props.plate?.torque_unit ?? '',
}))

async function stop(): Promise<void> {
  stopping.value = true
  error.value = ''
  try {
    await told(
      api.POST('/api/recordings/{recording_id}/stop', {
        params: { path: { recording_id: props.recording.id } },
        body: { person_id: personId.value },
      }),
    )
  } catch (caught) {
    stopping.value = false
    error.value = `${problemIn(caught, '').detail} Use the dyno's own stop.`
  }
}
const flip = () => (quantity.value = quantity.value === 'power' ? 'torque' : 'power')
useKeys([
  { key: ' ', says: 'stop: take the load off', run: () => void stop() },
  { key: 'Escape', says: 'stop: take the load off', run: () => void stop() },
  { key: 't', says: 'torque or power', run: flip },
])
</script>

<template>
  <div class="live">
    <div class="top">
      <div class="figures mono">
        <span class="big">{{ state?.speed?.value.toFixed(0) ?? '–' }} <small>rpm</small></span>
        <span class="big"
          >{{ state?.[quantity]?.text ?? '–' }} <small>{{ unitsShown[quantity] }}</small></span
        >
      </div>
      <div class="says">
        <b>{{ recording.build }} on {{ recording.dyno }}</b>
        <span class="quiet">{{ state?.basis || 'Waiting for the first sample.' }}</span>
        <span v-if="state?.words" class="doubt" role="status">{{ state.words }}</span>
        <span v-if="unlike" class="doubt">{{ unlike }}</span>
        <span v-if="lost" class="doubt" role="status">{{ lost }}</span>
        <span v-if="error" class="harm" role="alert">{{ error }}</span>
      </div>
      <button type="button" class="stop" :disabled="stopping" @click="stop">
        {{ stopping ? 'Stopping' : 'Stop' }} <KeyCap k="Space" />
      </button>
    </div>
    <dl class="gauges">
      <div v-for="g in state?.gauges ?? []" :key="g.name" :class="{ near: g.near, broken: g.broken }">
        <dt>{{ g.label }}</dt>
        <dd class="mono">{{ g.text }}</dd>
        <dd class="quiet narrow">{{ g.limit }}{{ g.broken ? ', beyond' : g.near ? ', near' : '' }}</dd>
      </div>
    </dl>
    <LivePlate
      :points="points"
      :stock="stock"
      :earlier="earlier"
      :units="unitsShown"
      :quantity="quantity"
      :height="height"
    />
    <div class="narrow quiet">
      {{ state?.count ?? 0 }} samples kept. The pull goes on if this page is closed.
      <button type="button" class="plain-button" @click="flip">
        <KeyCap k="T" /> {{ quantity === 'power' ? 'torque' : 'power' }}
      </button>
    </div>
  </div>
</template>

<style scoped>
.live {
  display: grid;
  gap: 10px;
  align-content: start;
}
.top {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) auto;
  gap: 8px 24px;
  align-items: center;
}
.figures {
  display: flex;
  flex-wrap: wrap;
  gap: 0 28px;
}
.big {
  min-width: 5ch;
  font-size: 52px;
  font-weight: 600;
  line-height: 1.05;
}
.big small {
  font-size: 22px;
}
.says {
  display: grid;
}
.stop {
  min-width: 168px;
  min-height: 84px;
  border: 0;
  border-radius: 6px;
  background: var(--harm);
  color: var(--sheet);
  font: 700 30px var(--narrow);
  cursor: pointer;
}
.stop:focus-visible {
  outline: 4px solid var(--ink);
  outline-offset: 2px;
}
.gauges {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 26px;
  margin: 0;
  border-top: 1px solid var(--hair);
  border-bottom: 1px solid var(--hair);
  padding: 6px 0;
}
dt {
  font: 500 14px var(--narrow);
  color: var(--quiet);
}
dd {
  margin: 0;
}
dd.mono {
  font-size: 20px;
  font-weight: 600;
}
.near dd.mono,
.near dd.narrow {
  color: var(--doubt);
}
.broken dd.mono,
.broken dd.narrow {
  color: var(--harm);
}
@media (max-width: 1000px) {
  .top {
    grid-template-columns: minmax(0, 1fr) auto;
  }
  .says {
    grid-column: 1 / -1;
    grid-row: 2;
  }
}
</style>
