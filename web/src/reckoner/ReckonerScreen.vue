<script setup lang="ts">
/** One number, now: find a calculation, type, see; with its formula and where it is from. */
import { useDebounceFn } from '@vueuse/core'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, problemIn, told, type Schemas } from '@/api/client'
import { useSheet } from '@/api/sheet'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import { whereOneCameFrom } from '@/frame/onScreen'
import ShopMark from '@/frame/ShopMark.vue'
import { figure } from '@/ui/figures'
import { vFocus } from '@/ui/focus'
import NotShown from '@/ui/NotShown.vue'
import TextField from '@/ui/TextField.vue'
import { fieldName, figuresFor, shown } from './fields'

type Calculation = Schemas['CalculationView']
const route = useRoute()
const router = useRouter()
const { sheet: all, failure } = useSheet(() => told(api.GET('/api/calc')))
const sought = ref('')
const typed = ref<Record<string, string>>({})
/** Fields that hold what is usual, not what is known of the screen that was left. */
const usual = ref(new Set<string>())
const from = whereOneCameFrom()
const result = ref<Record<string, unknown>>()
const refusal = ref('')
const finder = ref<{ $el: HTMLInputElement }>()
const REST_MS = 80

/** What takes plain numbers and words; the others are asked by a program, with lists. */
const simple = (c: Calculation) => Object.values(c.example).every((v) => v === null || typeof v !== 'object')
const found = computed(() => {
  const words = sought.value.toLowerCase().split(/\s+/)
  return (all.value ?? [])
    .filter(simple)
    .filter((c) => words.every((w) => `${c.name} ${c.answers}`.toLowerCase().includes(w)))
})
const chosen = computed(() => {
  const name = String(route.query['of'] ?? '')
  return all.value?.find((c) => c.name === name) ?? found.value[0]
})
const inputs = computed(() => Object.keys(chosen.value?.example ?? {}))
const outputs = computed(() => Object.entries(result.value ?? {}).filter(([, v]) => !Array.isArray(v)))
const findings = computed(() => Object.values(result.value ?? {}).flatMap((v) => (Array.isArray(v) ? v : [])))

function choose(c: Calculation | undefined): void {
  if (c) void router.replace({ query: { of: c.name } })
}
const step = (by: number) => {
  const at = found.value.findIndex((c) => c.name === chosen.value?.name)
  choose(found.value[(at + by + found.value.length) % found.value.length])
}

watch(
  chosen,
  (now) => {
    const example = Object.entries(now?.example ?? {})
    const known = figuresFor(Object.keys(now?.example ?? {}), from)
    typed.value = Object.fromEntries(example.map(([k, v]) => [k, String(known[k] ?? v)]))
    usual.value = new Set(example.flatMap(([k]) => (k in known ? [] : [k])))
    void work()
  },
  { immediate: true },
)

/** A number as typed; a word for a word. What is neither goes out as it is, and is refused by its name. */
function body(c: Calculation): Record<string, unknown> {
  return Object.fromEntries(
    Object.entries(c.example).map(([name, usual]) => {
      const text = typed.value[name] ?? ''
      return [name, typeof usual === 'number' ? (figure(text) ?? text) : text]
    }),
  )
}

async function work(): Promise<void> {
  const c = chosen.value
  if (!c) return
  try {
    // Each has an address of its own; which, the list of them says.
    const asked = api.POST(`/api/calc/${c.name}` as never, { body: body(c) } as never)
    const answer: Record<string, unknown> = await told(asked)
    if (chosen.value?.name !== c.name) return
    result.value = answer
    refusal.value = ''
  } catch (error) {
    refusal.value = problemIn(error, 'Try again.').detail
  }
}
const atRest = useDebounceFn(work, REST_MS)
function touched(name: string): void {
  usual.value.delete(name)
  void atRest()
}

/** The result that the screen one came from can take, as it would be typed there. */
const usable = computed(() => {
  const takes = from?.takes
  const fits = outputs.value.find(([name]) => takes?.units.includes(fieldName(name).unit))
  return takes && fits && `${shown(fits[1])} ${fieldName(fits[0]).unit.replace('m³', 'm3')}`
})
function use(): void {
  if (!usable.value || refusal.value) return void work()
  from?.takes?.put(usable.value)
  router.back()
}

const find = () => void nextTick(() => finder.value?.$el.select())
document.title = 'Reckoner · Elvarn'
useKeys([
  { key: '/', says: 'find a calculation', run: find },
  { key: 'ArrowDown', says: 'next calculation', run: () => step(1) },
  { key: 'ArrowUp', says: 'previous calculation', run: () => step(-1) },
  { key: 'Escape', says: 'back', run: () => router.back() },
])
</script>

<template>
  <div v-if="all" class="reckoner">
    <header>
      <button type="button" class="way" @click="router.back()">◂ Back <KeyCap k="Esc" /></button>
      <h1>Reckoner</h1>
      <span class="space" />
      <ShopMark />
    </header>
    <div class="columns">
      <nav aria-label="Calculations">
        <InputText
          ref="finder"
          v-model="sought"
          v-focus
          aria-label="Find a calculation"
          placeholder="find: velocity, torque, dew"
          @keydown.down.prevent="step(1)"
          @keydown.up.prevent="step(-1)"
          @keydown.enter.prevent="choose(found[0])"
          @keydown.esc="router.back()"
        />
        <ul>
          <li v-for="c in found" :key="c.name">
            <button type="button" :class="{ on: c.name === chosen?.name }" @click="choose(c)">
              {{ c.answers }}
            </button>
          </li>
        </ul>
        <p v-if="!found.length" class="quiet">Nothing by that name. Try another word.</p>
      </nav>
      <section v-if="chosen" :aria-label="chosen.answers">
        <h2>{{ chosen.answers }}</h2>
        <p v-if="from && usual.size < inputs.length" class="quiet narrow">
          With the figures of {{ from.of }}; italic ones are usual values.
        </p>
        <form @submit.prevent="use">
          <TextField
            v-for="name in inputs"
            :key="name"
            v-model="typed[name]!"
            :class="{ usual: usual.has(name) }"
            @input="touched(name)"
            :label="[fieldName(name).words, fieldName(name).unit].filter(Boolean).join(', ')"
            inputmode="decimal"
          />
          <Button v-if="usable && !refusal" type="submit" size="small">
            Use {{ usable }} at {{ from?.of }} <KeyCap k="Enter" />
          </Button>
        </form>
        <p v-if="refusal" class="doubt" role="alert">{{ refusal }}</p>
        <dl v-else aria-label="Result" :class="{ doubtful: findings.length }">
          <div v-for="[name, value] in outputs" :key="name">
            <dd class="mono">
              {{ shown(value) }} <small>{{ fieldName(name).unit }}</small>
            </dd>
            <dt>{{ fieldName(name).words }}</dt>
          </div>
        </dl>
        <p v-for="f in findings" :key="String(f)" class="doubt">{{ f }}</p>
        <p v-if="chosen.formula" class="mono formula">{{ chosen.formula }}</p>
        <p v-if="chosen.source" class="quiet narrow">Source: {{ chosen.source }}</p>
      </section>
    </div>
  </div>
  <NotShown v-else :why="failure" />
</template>

<style scoped>
.reckoner {
  padding: 0 24px 24px;
}
header {
  display: flex;
  gap: 18px;
  align-items: center;
  padding: 12px 0;
  border-bottom: 1px solid var(--hair);
}
.space {
  flex: 1;
}
.columns {
  display: grid;
  grid-template-columns: 420px minmax(0, 1fr);
  gap: 40px;
  padding-top: 16px;
}
nav ul {
  list-style: none;
  margin: 10px 0 0;
  padding: 0;
  max-height: calc(100vh - 170px);
  overflow-y: auto;
}
nav input {
  width: 100%;
}
li button {
  width: 100%;
  padding: 5px 8px;
  border: 0;
  border-left: 3px solid transparent;
  background: none;
  color: var(--ink);
  font: inherit;
  text-align: left;
  cursor: pointer;
}
li button.on {
  border-color: var(--dye);
  font-weight: 600;
}
form {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 18px;
  padding: 14px 0;
}
form :deep(.field) {
  width: 190px;
}
form :deep(input) {
  width: 100%;
}
dl {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 36px;
  margin: 6px 0 14px;
}
dd {
  margin: 0;
  font-size: 38px;
  font-weight: 600;
  line-height: 1.15;
}
dl > div + div dd {
  font-size: 24px;
}
dd small {
  font: 500 18px var(--narrow);
  color: var(--quiet);
}
dt {
  color: var(--quiet);
}
form :deep(.usual input) {
  font-style: italic;
}
form > button {
  align-self: end;
}
.doubtful dd {
  color: var(--doubt);
  font-style: italic;
}
.formula {
  padding: 6px 0;
}
@media (max-width: 1000px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
  nav ul {
    max-height: 220px;
  }
}
</style>
