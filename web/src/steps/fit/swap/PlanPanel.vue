<script setup lang="ts">
/** The plan of a swap said anew: the kit counted, what is in the way, what is renewed while it is open, the ways taken
 * where people differ, lines and steps of one's own. Each change is kept at once. */
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import ChoiceField from '@/ui/ChoiceField.vue'
import { sent } from '@/ui/figures'
import TextField from '@/ui/TextField.vue'
import type { Plan, Swap, UseSwap } from './useSwap'

const props = defineProps<{
  swap: Swap
  builds: Schemas['BuildChoice'][]
  phases: readonly string[]
  usual: readonly string[]
  currency: string
  say: UseSwap['say']
}>()
const emit = defineEmits<{ leave: []; away: [] }>()
const way = ref({ words: '', bolts: '', minutes: '' })
const worth = ref({ words: '', price: '' })
const own = ref({ words: '', on: 'manifold' })
const step = ref({ title: '', phase: 'close' })
const family = ref(props.swap.family)
const taken = computed(() => props.swap.renewals.filter((r) => r.taken))
const price = computed(() => taken.value.reduce((sum, r) => sum + (r.price ?? 0), 0))
const minutes = computed(() => props.swap.in_the_way.reduce((sum, w) => sum + (w.minutes ?? 0), 0))
const PLACES = ['manifold', 'throttle', 'tube', 'meter'].map((value) => ({ label: value, value }))
const phaseChoices = computed(() => props.phases.map((value) => ({ label: value, value })))
const others = computed(() => props.builds.map((b) => ({ label: b.name, value: b.id })))

const counted = (swap: Swap): Record<string, number> =>
  Object.fromEntries(swap.kit.filter((k) => k.counted != null).map((k) => [k.words, k.counted as number]))
const count = (words: string, typed: string) =>
  void props.say((swap) => {
    const number = sent(typed)
    const rest = Object.fromEntries(Object.entries(counted(swap)).filter(([name]) => name !== words))
    return { kit: (number == null ? rest : { ...rest, [words]: number }) as Plan['kit'] }
  })
const all = () =>
  void props.say((swap) => ({ kit: Object.fromEntries(swap.kit.map((k) => [k.words, k.wanted])) }))
/** What was typed goes from its fields once it is kept. */
async function addWay(): Promise<void> {
  const { words, bolts, minutes: typed } = way.value
  const one = { words, bolts, minutes: sent(typed) as never }
  if (await props.say((swap) => ({ in_the_way: [...swap.in_the_way, one] })))
    way.value = { words: '', bolts: '', minutes: '' }
}
async function addWorth(): Promise<void> {
  const one = { words: worth.value.words, price: sent(worth.value.price) as never, taken: true }
  if (await props.say((swap) => ({ renewals: [...swap.renewals, one] })))
    worth.value = { words: '', price: '' }
}
const take = (words: string) =>
  void props.say((swap) => ({
    renewals: swap.renewals.map((r) => (r.words === words ? { ...r, taken: !r.taken } : r)),
  }))
const line = (words: string, on: string) => ({ words, on, bore_mm: null, connector: '', signal: '' })
async function addOwn(): Promise<void> {
  const one = line(own.value.words, own.value.on)
  if (await props.say((swap) => ({ extras: [...swap.extras, one] }))) own.value.words = ''
}
/** What usually sits on an intake and is no line here yet. */
const missing = computed(() =>
  props.usual.filter((name) => !props.swap.strands.some((s) => s.off.toLowerCase().includes(name))),
)
const addUsual = (words: string) => void props.say((swap) => ({ extras: [...swap.extras, line(words, '')] }))
async function addStep(): Promise<void> {
  const one = { ...step.value } as Swap['steps'][number]
  if (await props.say((swap) => ({ steps: [...swap.steps, one] }))) step.value.title = ''
}
useKeys([
  { key: 'Escape', says: 'back to the sheet', run: () => emit('leave') },
  ...[0, 1, 2, 3, 4, 5, 6, 7, 8].map((n) => ({
    key: `${n + 1}`,
    says: `while it is open, number ${n + 1}: taken or left`,
    run: () => {
      const one = props.swap.renewals[n]
      if (one) take(one.words)
    },
  })),
])
const seals = computed(() => [
  { label: 'not noted', value: '' },
  ...props.swap.seals.map((value) => ({ label: value, value })),
])
/** What is short of the kit, a line each, to be pasted where it is ordered. */
const short = computed(() =>
  props.swap.kit.flatMap((k) =>
    k.counted != null && k.counted < k.wanted ? [`${k.wanted - k.counted} × ${k.words}`] : [],
  ),
)
const copyShort = () => void navigator.clipboard.writeText(short.value.join('\n'))
const school = (code: string, word: string) =>
  void props.say((swap) => ({
    schools: { ...Object.fromEntries(swap.schools.map((s) => [s.code, s.taken])), [code]: word },
  }))
/** Without one line of a list. */
const drop = (list: 'in_the_way' | 'extras', words: string) =>
  void props.say((swap) => ({ [list]: swap[list].filter((one) => one.words !== words) }))
const dropStep = (title: string) =>
  void props.say((swap) => ({ steps: swap.steps.filter((one) => one.title !== title) }))
const mockUp = (on: boolean) => void props.say(() => ({ mock_up: on }))
</script>

<template>
  <div class="plan" @keydown.esc="emit('leave')">
    <p class="top">
      <Button size="small" outlined @click="emit('leave')">Back to the sheet <KeyCap k="E" /></Button>
      <label class="mock"
        ><input
          type="checkbox"
          :checked="swap.mock_up"
          @change="mockUp(($event.target as HTMLInputElement).checked)"
        />
        mock-up, not to be started</label
      >
    </p>
    <section aria-label="Kit">
      <h3>Kit <button type="button" class="way" @click="all">all there</button></h3>
      <p v-for="k in swap.kit" :key="k.words" class="row">
        <span class="mono count">{{ k.wanted }} ×</span><span>{{ k.words }}</span>
        <input
          class="small mono"
          :value="k.counted ?? ''"
          :aria-label="`Counted: ${k.words}`"
          inputmode="numeric"
          @change="count(k.words, ($event.target as HTMLInputElement).value)"
        /><span class="quiet" :class="{ doubt: k.counted != null && k.counted < k.wanted }">{{
          k.counted == null ? 'not counted' : k.counted < k.wanted ? `${k.wanted - k.counted} short` : 'there'
        }}</span>
      </p>
    </section>
    <p v-if="short.length" class="row">
      <span class="doubt">Order first: {{ short.join(', ') }}</span>
      <button type="button" class="way" @click="copyShort">copy the list</button>
    </p>
    <section aria-label="In the way">
      <h3>
        In the way<span v-if="minutes" class="quiet"> · {{ minutes }} min, off and on</span>
      </h3>
      <p v-for="w in swap.in_the_way" :key="w.words" class="row">
        <span>{{ w.words }}</span><span class="quiet">{{ w.bolts }}</span>
        <span class="quiet">{{ w.minutes == null ? '' : `${w.minutes} min` }}</span>
        <button type="button" class="way" @click="drop('in_the_way', w.words)">not in the way</button>
      </p>
      <form class="add" @submit.prevent="addWay">
        <TextField v-model="way.words" label="What" small place="plan.in_the_way" />
        <TextField v-model="way.bolts" label="Its bolts" small />
        <TextField v-model="way.minutes" label="Minutes" small />
        <Button type="submit" size="small" outlined>Add</Button>
      </form>
    </section>
    <section aria-label="While it is open">
      <h3>
        While it is open<span v-if="taken.length" class="quiet">
          · {{ taken.length }} taken, {{ price }} {{ currency }}</span
        >
      </h3>
      <p v-for="(r, n) in swap.renewals" :key="r.words" class="row">
        <button type="button" class="way" :aria-pressed="r.taken" @click="take(r.words)">
          <KeyCap v-if="n < 9" :k="`${n + 1}`" /> {{ r.taken ? '✓ taken' : 'take' }}
        </button>
        <span>{{ r.words }}</span><span class="mono quiet">{{
          r.price == null ? '' : `${r.price} ${currency}`
        }}</span>
      </p>
      <form class="add" @submit.prevent="addWorth">
        <TextField v-model="worth.words" label="What else" small place="plan.renewals" />
        <TextField v-model="worth.price" label="Price" small />
        <Button type="submit" size="small" outlined>Add</Button>
      </form>
    </section>
    <section aria-label="Ways">
      <h3>Where careful people differ</h3>
      <div v-for="s in swap.schools" :key="s.code" class="school">
        <b>{{ s.question }}</b>
        <p class="ways" role="group" :aria-label="s.question">
          <button
            v-for="{ word, why } in s.ways"
            :key="word"
            type="button"
            class="way"
            :aria-pressed="word === s.taken"
            :title="why"
            @click="school(s.code, word)"
          >
            {{ word === s.taken ? '✓ ' : '' }}{{ word }}
          </button>
        </p>
        <span class="quiet">{{ s.ways.find(({ word }) => word === s.taken)?.why }}</span>
      </div>
    </section>
    <section aria-label="Your own">
      <h3>Lines and steps of your own</h3>
      <p v-for="e in swap.extras" :key="e.words" class="row">
        <span>{{ e.words }}</span><span class="quiet">on the {{ e.on || 'part it belongs to' }}</span>
        <button type="button" class="way" @click="drop('extras', e.words)">take away</button>
      </p>
      <form class="add" @submit.prevent="addOwn">
        <TextField v-model="own.words" label="Hose, plug or bracket; “unknown 1”" small place="plan.extras" />
        <ChoiceField v-model="own.on" label="On the" :options="PLACES" small />
        <Button type="submit" size="small" outlined>Add</Button>
      </form>
      <p v-if="missing.length" class="ways" role="group" aria-label="Usual on an intake">
        <span class="quiet">Usual, no line yet:</span>
        <button v-for="m in missing" :key="m" type="button" class="way" @click="addUsual(m)">
          + {{ m }}
        </button>
      </p>
      <p v-for="s in swap.steps" :key="s.title" class="row">
        <span>{{ s.title }}</span><span class="quiet">{{ s.phase }}</span>
        <button type="button" class="way" @click="dropStep(s.title)">take away</button>
      </p>
      <form class="add" @submit.prevent="addStep">
        <TextField v-model="step.title" label="Step" small place="plan.steps" />
        <ChoiceField v-model="step.phase" label="When" :options="phaseChoices" small />
        <Button type="submit" size="small" outlined>Add</Button>
      </form>
    </section>
    <section aria-label="The swap itself">
      <h3>The swap itself</h3>
      <form class="add" @submit.prevent="say(() => ({ family }))">
        <ChoiceField
          :model-value="swap.on_build_id"
          label="Goes on"
          :options="others"
          small
          @update:model-value="(id: string) => say(() => ({}), { on_build_id: id })"
        />
        <TextField v-model="family" label="Engine family" small place="plan.family" />
        <ChoiceField
          :model-value="swap.seal"
          label="O-rings are of"
          :options="seals"
          small
          @update:model-value="(seal: string) => say(() => ({ seal }))"
        />
        <Button type="submit" size="small" outlined>Keep</Button>
        <Button size="small" outlined @click="emit('away')">Put this swap away</Button>
      </form>
    </section>
  </div>
</template>

<style scoped>
.plan {
  display: grid;
  gap: 18px;
  max-width: 900px;
}
.top,
.row,
.add {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  align-items: center;
}
.row {
  min-height: 34px;
  border-top: 1px solid var(--faint);
}
.row > span:nth-of-type(2) {
  flex: 1;
}
.add {
  align-items: end;
  padding-top: 8px;
}
.add > :deep(.field:first-child) {
  flex: 1;
}
.count {
  width: 46px;
  text-align: right;
}
.small {
  width: 64px;
  padding: 4px 6px;
  font: inherit;
  font-family: var(--mono);
  color: inherit;
  background: var(--sheet);
  border: 1px solid var(--hair);
}
.mock {
  display: flex;
  gap: 8px;
  align-items: center;
}
.school {
  display: grid;
  gap: 2px;
  padding: 6px 0;
  border-top: 1px solid var(--faint);
}
.doubt {
  color: var(--doubt);
  font-weight: 600;
}
</style>
