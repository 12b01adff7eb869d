<script setup lang="ts">
/** The bench itself: what its meter answers to, its ranges, what it repeats within, and how its figures come in. */
import Button from 'primevue/button'
import { computed, onMounted, ref } from 'vue'
import { api, problemIn, told, type Problem, type Schemas } from '@/api/client'
import { useSheet } from '@/api/sheet'
import ChoiceField from '@/ui/ChoiceField.vue'
import { forgetDraft, useDraft } from '@/ui/draft'
import { asTyped, figure, sent, whole } from '@/ui/figures'
import KeyCap from '@/frame/KeyCap.vue'
import { useSession } from '@/frame/session'
import ProblemNote from '@/ui/ProblemNote.vue'
import { staleWays } from '@/ui/stale'
import TextField from '@/ui/TextField.vue'
import { day } from '@/ui/words'

const props = defineProps<{ bench: Schemas['BenchView'] }>()
const emit = defineEmits<{ kept: []; leave: [] }>()
const { loadShop, units } = useSession()
const METERS = [
  { value: 'ratio', label: 'pressure ratio (no weather correction)' },
  { value: 'volume', label: 'actual volume' },
  { value: 'mass', label: 'mass' },
]
const USUAL = 'DATA {flow},{depression},{temperature},{range}'
const b = props.bench
const { sheet: plates } = useSheet(
  () =>
    told(
      api.GET('/api/benches/{bench_id}/plates', {
        params: { path: { bench_id: b.id }, query: { units: units.value } },
      }),
    ),
  [units],
)
const form = ref({
  name: b.name,
  meter: b.meter,
  ranges: b.ranges
    .map((r, i) => {
      const of = (name: 'full_scale_cfm' | 'depression_inh2o') =>
        asTyped(b.typed, `ranges.${i}.${name}`, r[name])
      return `${of('full_scale_cfm')} at ${of('depression_inh2o')}`
    })
    .join(', '),
  repeats: asTyped(b.typed, 'repeatability_percent', b.repeatability_percent),
  shift: asTyped(b.typed, 'session_shift_percent', b.session_shift_percent),
  line: b.line ? b.line.device || `${b.line.host}:${b.line.port}` : '',
  pattern: b.line?.pattern ?? '',
  samples: b.line?.samples?.toString() ?? '10',
  shop: b.shop,
})
const place = `bench.${b.id}.${b.version}`
const { restored } = useDraft(place, form)
/** What the typed scatter means for two refits; without one, what the usual 0.5 % does. */
const pair = computed(() => {
  const typed = figure(form.value.repeats.replace(/\s*%$/, ''))
  return `${(2.8 * (typed ?? 0.5)).toFixed(1)} %`
})
const problem = ref<Problem>()
/** The version that the form was opened on, or that somebody else has made since. */
const version = ref(b.version)
const first = ref<InstanceType<typeof TextField>>()
onMounted(() => first.value?.select())

/** "120 at 28, 250 at 28": full scale in CFM, depression in inH2O. */
function ranges(): Schemas['BenchRange-Input'][] {
  const parts = form.value.ranges.split(/[,;]/).filter((part) => part.trim())
  return parts.map((part) => {
    const [flow, depression] = part.split(/\bat\b/)
    return { full_scale_cfm: (flow ?? '').trim(), depression_inh2o: sent(depression ?? '') ?? 28 }
  })
}

/** "127.0.0.1:5125" over the network, "/dev/ttyUSB0" by a serial line; nothing typed means that figures are typed. */
function line(): Schemas['Line'] | null {
  const typed = form.value.line.trim()
  if (!typed) return null
  const pattern = form.value.pattern.trim() || USUAL
  const rest = { ...b.line, pattern, samples: whole(form.value.samples) ?? 0 }
  if (typed.startsWith('/')) return { ...rest, device: typed }
  const [host, port] = typed.split(':')
  return { ...rest, device: '', host: host ?? '', port: whole(port ?? '') ?? 0 }
}

function leave(): void {
  forgetDraft(place)
  emit('leave')
}

async function keep(): Promise<void> {
  try {
    await told(
      api.PATCH('/api/benches/{bench_id}', {
        params: { path: { bench_id: b.id } },
        body: {
          version: version.value,
          name: form.value.name,
          meter: form.value.meter,
          ranges: ranges(),
          repeatability_percent: sent(form.value.repeats),
          session_shift_percent: sent(form.value.shift),
          line: line(),
          shop: form.value.shop,
        },
      }),
    )
  } catch (error) {
    problem.value = problemIn(error, 'Try again.')
    return
  }
  forgetDraft(place)
  await loadShop()
  emit('kept')
}
const stale = staleWays(problem, version, keep, async () => {
  forgetDraft(place)
  await loadShop()
  emit('kept')
})
</script>

<template>
  <form class="edit" @submit.prevent="keep" @keydown.esc.stop="leave">
    <TextField ref="first" v-model="form.name" label="Bench" wide small />
    <ChoiceField v-model="form.meter" label="Meter type" wide small :options="METERS" />
    <TextField
      v-model="form.ranges"
      label="Ranges, CFM at inH2O"
      wide
      small
      placeholder="120 at 28, 250 at 28"
    />
    <TextField
      v-model="form.repeats"
      :label="`Repeatability, %: typical scatter; two refits differ by less than ${pair}, 19 times in 20`"
      wide
      small
      inputmode="decimal"
      placeholder="0.5 if blank"
    />
    <TextField
      v-model="form.shift"
      label="Session shift, %"
      small
      inputmode="decimal"
      placeholder="0.5 if blank"
    />
    <TextField
      v-model="form.line"
      label="Connection (blank = type readings)"
      wide
      small
      placeholder="127.0.0.1:5125 or /dev/ttyUSB0"
    />
    <template v-if="form.line">
      <TextField v-model="form.pattern" label="Line format" wide small :placeholder="USUAL" />
      <TextField v-model="form.samples" label="Samples per reading" small inputmode="numeric" />
    </template>
    <TextField v-model="form.shop" label="Other shop's bench: name" small placeholder="our bench" />
    <p v-if="restored" class="quiet narrow wide">What you had typed is back; Esc drops it.</p>
    <ProblemNote v-if="problem" class="wide" :problem="problem" :stale="stale" />
    <Button type="submit" size="small" class="wide">Save <KeyCap k="Enter" /></Button>
    <div v-if="plates?.length" class="wide narrow plates">
      <h3>Reference plate history</h3>
      <p v-for="p in plates" :key="p.id" :class="{ struck: p.struck }">
        {{ day(p.at) }} {{ p.plate }} <span class="mono">{{ p.shown.text }} {{ p.shown.unit }}</span>
        <template v-if="p.known">
          of <span class="mono">{{ p.known.text }}</span><template v-if="p.uncertainty_percent">
            ±{{ p.uncertainty_percent }} %</template
          >
        </template>
        <template v-if="p.correction"
          >: readings × <span class="mono">{{ p.correction }}</span></template
        >
      </p>
    </div>
  </form>
</template>

<style scoped>
.edit {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 7px 12px;
}
.wide {
  grid-column: 1 / -1;
}
.plates {
  font-size: 14px;
}
.struck {
  text-decoration: line-through;
}
.edit :deep(.p-inputtext),
.edit :deep(.p-select) {
  width: 100%;
}
</style>
