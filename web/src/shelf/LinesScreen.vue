<script setup lang="ts">
/** The shop's own lines: where a drop, a share or a velocity is too much, its rate, and what it takes for granted. */
import Button from 'primevue/button'
import { computed, watch } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { api, told, type Schemas } from '@/api/client'
import { useSheet } from '@/api/sheet'
import { asTyped, sent } from '@/ui/figures'
import { useEdited } from '@/ui/draft'
import { provideRefusal } from '@/ui/refusal'
import KeyCap from '@/frame/KeyCap.vue'
import DailyCopy from './DailyCopy.vue'
import { useKeeping } from './keeping'
import ProblemNote from '@/ui/ProblemNote.vue'
import ShopMark from '@/frame/ShopMark.vue'
import SavedNote from '@/ui/SavedNote.vue'
import { staleWays } from '@/ui/stale'
import TextField from '@/ui/TextField.vue'
import NotShown from '@/ui/NotShown.vue'

type Settings = Omit<
  Schemas['PathSettings-Output'],
  'weights' | 'currency' | 'shop_name' | 'shop_address' | `stage_${0 | 1 | 2 | 3}`
>
const router = useRouter()
const { sheet: view, load, failure } = useSheet(() => told(api.GET('/api/settings/path')))
const {
  form: edited,
  version,
  refill,
  settled,
  givenUp,
  undoable,
  bringBack,
} = useEdited<Record<string, string>>('limits')
const form = computed(() => edited.value ?? {})
const { problem, kept, keep } = useKeeping(load)
provideRefusal(problem)
const FIGURES: { name: keyof Settings; label: string; why: string }[] = [
  {
    name: 'plenum_drop_kpa',
    label: 'Max pressure drop to the plenum, kPa',
    why: '2.5 kPa is about 2.5 % of the air.',
  },
  {
    name: 'runner_drop_kpa',
    label: 'Max pressure drop in a runner, kPa',
    why: 'Sets the flow a runner needs.',
  },
  {
    name: 'share_limit_percent',
    label: 'Max share of one component, %',
    why: 'Above it Elvarn says what the component would have to flow.',
  },
  {
    name: 'port_velocity_m_s',
    label: 'Max port velocity, m/s',
    why: 'Mean piston speed times piston over port area.',
  },
  {
    name: 'filling_percent',
    label: 'VE without a pull, %',
    why: 'With a pull on an engine dyno its own is computed.',
  },
  {
    name: 'matters_percent',
    label: 'Smallest change that matters, %',
    why: 'Below it, with its ±, a change is called: no difference larger than this.',
  },
  {
    name: 'highest_idle_rpm',
    label: 'Highest idle, rpm',
    why: 'Above it a start on the dyno is asked about.',
  },
  { name: 'hourly_rate', label: 'Labour rate per hour', why: 'It goes into the cost of a candidate.' },
]

const WORDS = [
  { name: 'currency', label: 'Currency', why: 'Shown with prices.' },
  { name: 'shop_name', label: 'Shop name', why: 'On top of the printed sheet.' },
  { name: 'shop_address', label: 'Address', why: 'Beside it.' },
  { name: 'stage_1', label: 'Stage 1 is called', why: 'Stages of port work, as your shop says it.' },
  { name: 'stage_2', label: 'Stage 2', why: '' },
  { name: 'stage_3', label: 'Stage 3', why: '' },
  { name: 'stage_0', label: 'Gasket match alone', why: 'It adds next to nothing.' },
] as const

document.title = 'Shop limits · Elvarn'
watch(view, (found) => {
  const settings = found?.settings
  const figures = Object.fromEntries(
    FIGURES.map((f) => [f.name, asTyped(found?.typed, f.name, settings?.[f.name])]),
  )
  const words = Object.fromEntries(WORDS.map((w) => [w.name, settings?.[w.name] ?? '']))
  if (found) refill({ ...figures, ...words }, found.version)
})

async function keepLines(found: Schemas['SettingsView']): Promise<void> {
  const typed = Object.fromEntries(FIGURES.map((f) => [f.name, sent(form.value[f.name] ?? '')]))
  const words = Object.fromEntries(WORDS.map((w) => [w.name, form.value[w.name]]))
  const settings = { ...found.settings, ...typed, ...words }
  await keep(async () => {
    await told(api.PATCH('/api/settings/path', { body: { version: version.value, settings } }))
    settled()
  })
}
const stale = staleWays(
  problem,
  version,
  () => view.value && keepLines(view.value),
  async () => {
    givenUp()
    await load()
  },
)
</script>

<template>
  <div v-if="view" class="lines">
    <header>
      <RouterLink to="/" class="narrow quiet">◂ Board</RouterLink>
      <h1>Shop limits</h1>
      <span class="space" />
      <ShopMark />
    </header>
    <form v-if="view" @submit.prevent="keepLines(view)">
      <div v-for="(f, i) in FIGURES" :key="f.name" class="row">
        <TextField
          v-model="form[f.name]!"
          :label="f.label"
          :focus="i === 0"
          inputmode="decimal"
          :place="`settings.${f.name}`"
        />
        <span class="quiet">{{ f.why }}</span>
      </div>
      <div v-for="w in WORDS" :key="w.name" class="row">
        <TextField v-model="form[w.name]!" :label="w.label" :place="`settings.${w.name}`" />
        <span class="quiet">{{ w.why }}</span>
      </div>
      <ProblemNote v-if="problem" :problem="problem" :stale="stale" />
      <p class="ways">
        <Button type="submit">Save <KeyCap k="Enter" /></Button>
        <button type="button" class="way" @click="router.back()">Back</button>
        <SavedNote v-if="kept" :undoable="undoable" @undo="(bringBack(), keepLines(view))" />
      </p>
    </form>
    <DailyCopy />
  </div>
  <NotShown v-else :why="failure" />
</template>

<style scoped>
.lines {
  padding: 0 24px 24px;
}
header {
  display: flex;
  align-items: center;
  gap: 18px;
  padding: 12px 0;
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
  gap: 12px;
  max-width: 820px;
  padding-top: 16px;
}
.row {
  display: grid;
  grid-template-columns: 280px 1fr;
  gap: 24px;
  align-items: end;
}
.row > span {
  padding-bottom: 8px;
}
</style>
