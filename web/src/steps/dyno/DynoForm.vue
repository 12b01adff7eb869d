<script setup lang="ts">
/** A dyno of the shop: what it measures, what it repeats within, and where its samples come from. */
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import { api, newId, problemIn, told, type Problem, type Schemas } from '@/api/client'
import KeyCap from '@/frame/KeyCap.vue'
import { useSession } from '@/frame/session'
import CheckField from '@/ui/CheckField.vue'
import ChoiceField from '@/ui/ChoiceField.vue'
import { vFocus } from '@/ui/focus'
import ProblemNote from '@/ui/ProblemNote.vue'
import { staleWays } from '@/ui/stale'
import TextField from '@/ui/TextField.vue'
import { sent, whole } from '@/ui/figures'
import { provideRefusal } from '@/ui/refusal'

const emit = defineEmits<{ saved: []; leave: [] }>()
const { shop, loadShop } = useSession()
const NEW = 'new'
const KINDS = [
  { label: 'at the engine', value: 'engine' },
  { label: 'at the hubs', value: 'hub' },
  { label: 'on rollers', value: 'roller' },
]
const LOADS = [
  { label: 'not noted', value: '' },
  { label: 'brake', value: 'brake' },
  { label: 'inertia', value: 'inertia' },
]
const dynos = computed(() => [...(shop.value?.dynos ?? []), { id: NEW, name: 'another dyno' }])
const chosen = ref(dynos.value[0]!.id)
const found = computed(() => shop.value?.dynos.find((d) => d.id === chosen.value))
const problem = ref<Problem>()
provideRefusal(problem)

const formOf = (d: Schemas['DynoView'] | undefined) => ({
  name: d?.name ?? '',
  kind: d?.kind ?? 'engine',
  load: d?.load ?? '',
  repeats: d?.repeatability_percent?.toString() ?? '',
  day: d?.day_shift_percent?.toString() ?? '',
  live: !!d?.line,
  host: d?.line?.host ?? '127.0.0.1',
  port: String(d?.line?.port ?? 5126),
  device: d?.line?.device ?? '',
  baud: String(d?.line?.baud ?? 9600),
  pattern: d?.line?.pattern ?? '',
  scpi: d?.line?.greeting !== '',
})
const form = ref(formOf(found.value))
const version = ref(found.value?.version ?? 0)
function fill(): void {
  form.value = formOf(found.value)
  version.value = found.value?.version ?? 0
}
watch(chosen, fill)

function lineOf(): Schemas['DynoLine'] | null {
  const f = form.value
  if (!f.live) return null
  const spoken = f.scpi ? {} : { greeting: '', farewell: '' }
  const pattern = f.pattern.trim() ? { pattern: f.pattern } : {}
  return {
    host: f.host,
    port: whole(f.port) ?? 0,
    device: f.device.trim(),
    baud: whole(f.baud) ?? 9600,
    ...spoken,
    ...pattern,
  }
}

async function save(): Promise<void> {
  problem.value = undefined
  const f = form.value
  const dyno = {
    name: f.name,
    kind: f.kind,
    load: f.load,
    repeatability_percent: sent(f.repeats),
    day_shift_percent: sent(f.day),
    line: lineOf(),
  }
  const path = { dyno_id: found.value?.id ?? newId() }
  try {
    await told(
      found.value
        ? api.PATCH('/api/dynos/{dyno_id}', {
            params: { path },
            body: { version: version.value, dyno },
          })
        : api.PUT('/api/dynos/{dyno_id}', { params: { path }, body: dyno }),
    )
    await loadShop()
    emit('saved')
  } catch (error) {
    problem.value = problemIn(error, 'Nothing was changed; try again.')
  }
}
const stale = staleWays(problem, version, save, async () => {
  await loadShop()
  fill()
})
</script>

<template>
  <form class="dyno-form" @submit.prevent="save" @keydown.esc="emit('leave')">
    <h2>Dynos of the shop</h2>
    <div class="fields">
      <ChoiceField v-model="chosen" label="Which" small :options="dynos" shown="name" kept="id" />
      <TextField v-model="form.name" label="Name" small place="name" />
      <ChoiceField v-model="form.kind" label="Power is measured" small :options="KINDS" />
      <ChoiceField v-model="form.load" label="Load" small :options="LOADS" />
      <TextField
        v-model="form.repeats"
        label="Two pulls differ by at most, %"
        small
        placeholder="learned"
        place="repeatability_percent"
      />
      <TextField
        v-model="form.day"
        label="Day to day, standard deviation, %"
        small
        placeholder="learned"
        place="day_shift_percent"
      />
    </div>
    <CheckField v-model="form.live" label="Its samples come in by themselves" />
    <div v-if="form.live" class="fields">
      <TextField v-model="form.host" label="It answers at" small place="line.host" />
      <TextField v-model="form.port" label="Port" small inputmode="numeric" place="line.port" />
      <TextField
        v-model="form.device"
        label="Or serial port"
        small
        placeholder="/dev/ttyUSB0"
        place="line.device"
      />
      <TextField
        v-model="form.pattern"
        class="all"
        label="A line of it looks like"
        small
        placeholder="as the simulated dyno sends it; else such as {speed};{torque};{mixture_lambda}"
        place="line.pattern"
      />
      <CheckField v-model="form.scpi" label="Starts and stops by SCPI; else it sends by itself" />
    </div>
    <ProblemNote
      v-if="problem"
      :problem="problem"
      :stale="stale"
      give-up="leave it as it was"
      @give-up="emit('leave')"
    />
    <div class="end">
      <Button type="submit" size="small" v-focus>Save <KeyCap k="Enter" /></Button>
      <Button outlined size="small" @click="emit('leave')">Cancel <KeyCap k="Esc" /></Button>
    </div>
  </form>
</template>

<style scoped>
.dyno-form {
  display: grid;
  gap: 14px;
  align-content: start;
  max-width: 860px;
}
.fields {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 8px 18px;
}
.fields :deep(.all),
.fields :deep(.check) {
  grid-column: 1 / -1;
}
.end {
  display: flex;
  gap: 12px;
}
</style>
