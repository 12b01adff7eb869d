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
import type { Plan, Swap } from './useSwap'

const props = defineProps<{
  swap: Swap
  builds: Schemas['BuildChoice'][]
  phases: readonly string[]
  usual: readonly string[]
  currency: string
}>()
const emit = defineEmits<{
  say: [change: Partial<Plan>, more?: Record<string, unknown>]
  leave: []
  away: []
}>()
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

const kit = computed<Record<string, number>>(() =>
  Object.fromEntries(
    props.swap.kit.filter((k) => k.counted != null).map((k) => [k.words, k.counted as number]),
  ),
)
const count = (words: string, typed: string) => {
  const number = sent(typed)
  const rest = Object.fromEntries(Object.entries(kit.value).filter(([name]) => name !== words))
  emit('say', { kit: (number == null ? rest : { ...rest, [words]: number }) as Plan['kit'] })
}
const all = () => emit('say', { kit: Object.fromEntries(props.swap.kit.map((k) => [k.words, k.wanted])) })
function addWay(): void {
  const one = { words: way.value.words, bolts: way.value.bolts, minutes: sent(way.value.minutes) as never }
  emit('say', { in_the_way: [...props.swap.in_the_way, one] })
  way.value = { words: '', bolts: '', minutes: '' }
}
function addWorth(): void {
  const one = { words: worth.value.words, price: sent(worth.value.price) as never, taken: true }
  emit('say', { renewals: [...props.swap.renewals, one] })
  worth.value = { words: '', price: '' }
}
const take = (n: number) =>
  emit('say', { renewals: props.swap.renewals.map((r, at) => (at === n ? { ...r, taken: !r.taken } : r)) })
function addOwn(): void {
  const line = { words: own.value.words, on: own.value.on, bore_mm: null, connector: '', signal: '' }
  emit('say', { extras: [...props.swap.extras, line] })
  own.value.words = ''
}
/** What usually sits on an intake and is no line here yet. */
const missing = computed(() =>
  props.usual.filter((name) => !props.swap.strands.some((s) => s.off.toLowerCase().includes(name))),
)
const addUsual = (words: string) =>
  emit('say', {
    extras: [...props.swap.extras, { words, on: '', bore_mm: null, connector: '', signal: '' }],
  })
function addStep(): void {
  const one = { title: step.value.title, phase: step.value.phase } as Plan['steps'] extends
    (infer S)[] | undefined
    ? S
    : never
  emit('say', { steps: [...props.swap.steps, one] })
  step.value.title = ''
}
useKeys([
  { key: 'Escape', says: 'back to the sheet', run: () => emit('leave') },
  ...[0, 1, 2, 3, 4, 5, 6, 7, 8].map((n) => ({
    key: `${n + 1}`,
    says: `while it is open, number ${n + 1}: taken or left`,
    run: () => props.swap.renewals[n] && take(n),
  })),
])
const school = (code: string, word: string) =>
  emit('say', {
    schools: { ...Object.fromEntries(props.swap.schools.map((s) => [s.code, s.taken])), [code]: word },
  })
const without = <T,>(list: readonly T[], n: number): T[] => list.filter((_, at) => at !== n)
</script>

<template>
  <div class="plan" @keydown.esc="emit('leave')">
    <p class="top">
      <Button size="small" outlined @click="emit('leave')">Back to the sheet <KeyCap k="E" /></Button>
      <label class="mock"
        ><input
          type="checkbox"
          :checked="swap.mock_up"
          @change="emit('say', { mock_up: ($event.target as HTMLInputElement).checked })"
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
    <section aria-label="In the way">
      <h3>
        In the way<span v-if="minutes" class="quiet"> · {{ minutes }} min, off and on</span>
      </h3>
      <p v-for="(w, n) in swap.in_the_way" :key="w.words" class="row">
        <span>{{ w.words }}</span><span class="quiet">{{ w.bolts }}</span>
        <span class="quiet">{{ w.minutes == null ? '' : `${w.minutes} min` }}</span>
        <button type="button" class="way" @click="emit('say', { in_the_way: without(swap.in_the_way, n) })">
          not in the way
        </button>
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
        <button type="button" class="way" :aria-pressed="r.taken" @click="take(n)">
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
      <p v-for="(e, n) in swap.extras" :key="e.words" class="row">
        <span>{{ e.words }}</span><span class="quiet">on the {{ e.on || 'part it belongs to' }}</span>
        <button type="button" class="way" @click="emit('say', { extras: without(swap.extras, n) })">
          take away
        </button>
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
      <p v-for="(s, n) in swap.steps" :key="s.title" class="row">
        <span>{{ s.title }}</span><span class="quiet">{{ s.phase }}</span>
        <button type="button" class="way" @click="emit('say', { steps: without(swap.steps, n) })">
          take away
        </button>
      </p>
      <form class="add" @submit.prevent="addStep">
        <TextField v-model="step.title" label="Step" small place="plan.steps" />
        <ChoiceField v-model="step.phase" label="When" :options="phaseChoices" small />
        <Button type="submit" size="small" outlined>Add</Button>
      </form>
    </section>
    <section aria-label="The swap itself">
      <h3>The swap itself</h3>
      <form class="add" @submit.prevent="emit('say', { family })">
        <ChoiceField
          :model-value="swap.on_build_id"
          label="Goes on"
          :options="others"
          small
          @update:model-value="(id: string) => emit('say', {}, { on_build_id: id })"
        />
        <TextField v-model="family" label="Engine family" small place="plan.family" />
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
