<script setup lang="ts">
/** The one question that is open: its fields large, what follows beside, the ways on. */
import Button from 'primevue/button'
import { computed, nextTick, onMounted, ref } from 'vue'
import type { Problem, Schemas } from '@/api/client'
import KeyCap from '@/frame/KeyCap.vue'
import CheckField from '@/ui/CheckField.vue'
import ChoiceField from '@/ui/ChoiceField.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import { provideRefusal } from '@/ui/refusal'
import type { StaleWays } from '@/ui/stale'
import TextField from '@/ui/TextField.vue'
import type { Ask, Field, Forms } from './questions'
import SurroundingsFields from './SurroundingsFields.vue'

const props = defineProps<{
  ask: Ask
  number: string
  forms: Forms
  following: Schemas['Following'][]
  standards: { word: string; label: string }[]
  banks: number
  problem: Problem | undefined
  /** The problem was noticed while it is being typed: nobody asked to save it yet. */
  noticed: boolean
  stale: StaleWays
  words: Record<string, string>
}>()
const emit = defineEmits<{ keep: []; later: []; typed: [] }>()
const box = ref<HTMLElement>()
provideRefusal(
  computed(() => props.problem),
  computed(() => props.noticed),
)
/** The form that the question is of, by the names of its fields. */
const form = computed(() => props.forms[props.ask.of] as unknown as Record<string, never>)
const fields = computed(() => props.ask.fields(props.forms))
const follows = computed(() => props.following.filter((f) => props.ask.follows.includes(f.name)))
const choicesOf = (f: Field) =>
  f.name === 'standard' ? props.standards.map((s) => ({ label: s.label, value: s.word })) : (f.choices ?? [])
const set = (name: string, value: unknown) => {
  emit('typed') // before it may count as answered
  form.value[name] = value as never
}
onMounted(async () => {
  await nextTick()
  box.value?.querySelector<HTMLElement>('input, [role=combobox]')?.focus()
})
</script>

<template>
  <form
    ref="box"
    class="strip"
    :aria-label="ask.line"
    @submit.prevent="emit('keep')"
    @keydown.esc.stop="emit('later')"
  >
    <h2>
      {{ ask.ask }} <span class="mono quiet">{{ number }}</span>
    </h2>
    <div v-if="ask.name === 'fits'" class="fits">
      <SurroundingsFields
        :model-value="forms.job.around"
        :banks="banks"
        @update:model-value="(v) => set('around', v)"
      />
    </div>
    <div v-else class="fields">
      <template v-for="f in fields" :key="f.name">
        <ChoiceField
          v-if="f.choices"
          :model-value="form[f.name]"
          :label="f.label"
          :options="choicesOf(f)"
          @update:model-value="(v: unknown) => set(f.name, v)"
        />
        <CheckField
          v-else-if="f.check"
          :model-value="form[f.name] ?? null"
          :label="f.label"
          @update:model-value="(v: unknown) => set(f.name, v)"
        />
        <TextField
          v-else
          :model-value="form[f.name] ?? ''"
          :label="f.label"
          :place="f.place"
          :placeholder="f.placeholder"
          :type="f.date ? 'date' : 'text'"
          @update:model-value="(v: string) => set(f.name, v)"
        />
      </template>
    </div>
    <dl v-if="follows.length" aria-label="Calculated">
      <div v-for="f in follows" :key="f.name" :class="{ doubt: f.doubt }">
        <dt>{{ f.name }}</dt>
        <dd>
          <span class="mono">{{ f.text }}</span> <span class="narrow quiet">{{ f.note }}</span>
        </dd>
      </div>
    </dl>
    <ProblemNote v-if="problem" :problem="problem" :stale="stale" :words="words" />
    <p class="ways">
      <Button type="submit">Save <KeyCap k="Enter" /></Button>
      <Button type="button" severity="secondary" @click="emit('later')">Ask later <KeyCap k="Esc" /></Button>
      <slot />
    </p>
  </form>
</template>

<style scoped>
.strip {
  display: grid;
  gap: 12px;
  padding: 14px 18px;
  background: var(--sheet);
  border-left: 4px solid var(--dye);
}
h2 {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  font-size: 22px;
}
h2 .mono {
  font-size: 15px;
}
.fields,
.fits {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(148px, 1fr));
  gap: 10px 14px;
  align-items: end;
}
.fits {
  grid-template-columns: repeat(3, minmax(0, 1fr));
}
.strip :deep(.p-inputtext),
.strip :deep(.p-select) {
  width: 100%;
}
.fields :deep(.p-inputtext) {
  font: 500 21px var(--mono);
}
.fields :deep(.p-inputtext::placeholder) {
  font: 500 15px var(--narrow);
}
dl {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 26px;
  margin: 0;
}
dt {
  font: 500 14px var(--narrow);
  color: var(--quiet);
}
dd {
  margin: 0;
  font-size: 17px;
}
.doubt dt,
.doubt dd {
  color: var(--doubt);
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: center;
}
</style>
