<script setup lang="ts">
/** One element: what is known of it, what is measured now, and what if it were another. */
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { computed, nextTick, ref, watch } from 'vue'
import { RouterLink } from 'vue-router'
import { inMm, type PathElement } from '@/airpath/layout'
import type { Problem, Schemas } from '@/api/client'
import { PART_KINDS } from '@/ui/partKinds'
import KeyCap from '@/frame/KeyCap.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import { smallestBore, type Thought } from './thought'
import type { Answer } from './useMeasuring'

const props = defineProps<{
  element: PathElement
  row?: Schemas['LedgerRow']
  thought?: Thought
  parts: Schemas['ShelfCard'][]
  problem?: Problem
}>()
const emit = defineEmits<{
  measure: [quantity: string, typed: string, answer: Answer]
  widen: [bore: number]
  swap: [part: Schemas['ShelfCard'] | undefined]
  putIn: [kind: string]
  takeOut: []
  close: []
}>()

const QUANTITIES: Record<string, string[]> = {
  plenum: ['bore', 'length', 'volume', 'opening'],
  throttle: ['bore', 'length', 'shaft'],
  restrictor: ['bore', 'bore_out', 'length', 'entry_radius'],
  compressor: ['bore', 'bore_out'],
  runner: ['bore', 'bore_out', 'length', 'entry_radius'],
}
const WORDS: Record<string, string> = {
  flow: 'flow',
  bore: 'bore',
  bore_out: 'outlet bore',
  length: 'length',
  volume: 'volume',
  opening: 'opening',
  shaft: 'shaft',
  entry_radius: 'entry radius',
}
/** A runner is read at the bench, in its series; any other element here, by itself. */
const quantities = computed(() => [
  ...(QUANTITIES[props.element.kind] ?? ['bore', 'bore_out', 'length']),
  ...(['runner', 'plenum', 'compressor'].includes(props.element.kind) ? [] : ['flow']),
])
const PLACEHOLDERS: Record<string, string> = { volume: '3.1 L', flow: '620 CFM at 28 inH2O' }
/** What can be put into a path: a manifold comes as its plenum and runners. */
const PUT_IN = [...PART_KINDS.filter((k) => !['manifold', 'head'].includes(k)), 'plenum']
const AS_IT_IS = 'as it is'
const quantity = ref('bore')
const typed = ref('')
const entry = ref<{ $el: HTMLInputElement }>()
const swapper = ref<{ $el: HTMLElement }>()
const chosen = computed({
  get: () => props.thought?.part?.state_id ?? AS_IT_IS,
  set: (id: string) =>
    emit(
      'swap',
      props.parts.find((p) => p.state_id === id),
    ),
})
const options = computed(() => [
  { value: AS_IT_IS, label: 'unchanged' },
  ...props.parts.map((p) => ({
    value: p.state_id,
    label: `${[p.maker, p.name].filter(Boolean).join(' ')}${p.flow ? ` · ${p.flow.text} ${p.flow.unit}` : ''}`,
  })),
])
const bore = computed(() => props.thought?.bore_mm ?? smallestBore(props.element))

watch(
  () => props.element.node_id,
  async () => {
    typed.value = ''
    quantity.value = props.element.bore_mm == null ? 'bore' : 'length'
    await nextTick()
    entry.value?.$el.focus()
  },
  { immediate: true },
)

function keep(answer: Answer = {}): void {
  if (typed.value.trim()) emit('measure', quantity.value, typed.value, answer)
}
function choose(patch: Record<string, unknown>): void {
  const { typed: meant, ...answer } = patch as Answer & { typed?: string }
  if (meant !== undefined) typed.value = meant
  keep(answer)
}
const kept = () => (typed.value = '')
const focusSwap = () => swapper.value?.$el.querySelector<HTMLElement>('[role=combobox]')?.focus()
defineExpose({ kept, focusSwap })
</script>

<template>
  <section class="panel" :aria-label="element.label" @keydown.esc="emit('close')">
    <div class="known">
      <h2>{{ element.label }}</h2>
      <RouterLink v-if="element.part_id" class="narrow" :to="`/parts/${element.part_id}`"
        >all readings</RouterLink
      >
      <dl>
        <div>
          <dt>Bore</dt>
          <dd class="mono">
            {{ element.bore_mm == null ? 'not measured' : inMm(element.bore_mm)
            }}{{ element.bore_out_mm != null ? ` → ${inMm(element.bore_out_mm)}` : '' }}
          </dd>
        </div>
        <div v-if="element.length_mm != null || element.volume_l != null">
          <dt>Length</dt>
          <dd class="mono">
            {{ element.length_mm == null ? '' : `${element.length_mm.toFixed(0)} mm`
            }}{{ element.volume_l != null ? ` · ${element.volume_l.toFixed(2)} L` : '' }}
          </dd>
        </div>
        <div v-if="row">
          <dt>Flow</dt>
          <dd class="mono">
            {{ row.flow ? `${row.flow.text} ${row.flow.unit}` : '–' }}
            <span class="quiet narrow">{{ row.basis }}</span>
          </dd>
        </div>
        <div v-if="row?.whole_engine">
          <dt>All runners together</dt>
          <dd class="mono">
            {{ row.whole_engine.text }} {{ row.whole_engine.unit }}
            <span class="quiet narrow">beside components that feed all</span>
          </dd>
        </div>
        <div v-if="row?.wanted_flow">
          <dt>Flow needed</dt>
          <dd class="mono">
            {{ row.wanted_flow.text }} {{ row.wanted_flow.unit }}
            <span class="quiet narrow">to get under your share limit</span>
          </dd>
        </div>
      </dl>
    </div>
    <form class="measure" @submit.prevent="keep()">
      <h3>Measured</h3>
      <div class="which" role="group" aria-label="What is measured">
        <button
          v-for="q in quantities"
          :key="q"
          type="button"
          :class="{ on: quantity === q }"
          @click="quantity = q"
        >
          {{ WORDS[q] }}
        </button>
      </div>
      <div class="line">
        <InputText
          ref="entry"
          v-model="typed"
          size="small"
          data-commands="yes"
          :aria-label="`${WORDS[quantity]} of ${element.label}`"
          :placeholder="PLACEHOLDERS[quantity] ?? '70 mm or 2 3/4 in'"
          :invalid="!!problem"
        />
        <Button type="submit" size="small">Save <KeyCap k="Enter" /></Button>
      </div>
      <ProblemNote v-if="problem" :problem="problem" @choose="choose" />
    </form>
    <div class="thought">
      <h3>What-if</h3>
      <div v-if="bore != null" class="line">
        <button type="button" class="step" aria-label="narrower by 1 mm" @click="emit('widen', bore - 1)">
          −
        </button>
        <span class="mono bore">{{ inMm(bore) }}</span>
        <button type="button" class="step" aria-label="wider by 1 mm" @click="emit('widen', bore + 1)">
          +
        </button>
        <KeyCap k="↑ ↓" />
      </div>
      <div v-if="parts.length" class="line">
        <Select
          ref="swapper"
          v-model="chosen"
          :options="options"
          option-label="label"
          option-value="value"
          size="small"
          :aria-label="`Another ${element.kind} from the shelf`"
        />
        <KeyCap k="S" />
      </div>
      <p v-else class="quiet narrow">No {{ element.kind }} on the shelf.</p>
      <div class="line">
        <Select
          :model-value="null"
          :options="PUT_IN"
          placeholder="insert after it…"
          size="small"
          :aria-label="`Put an element in behind ${element.label}`"
          :disabled="element.cylinder != null"
          @update:model-value="(kind: string) => emit('putIn', kind)"
        />
        <button type="button" class="way" @click="emit('takeOut')">Remove</button>
      </div>
    </div>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  grid-template-columns: minmax(0, 1.15fr) minmax(0, 1.2fr) minmax(0, 1fr);
  gap: 24px;
}
dl {
  margin: 4px 0 0;
}
dl > div {
  display: grid;
  grid-template-columns: 66px 1fr;
  padding: 2px 0;
}
dt {
  font: 500 15px/1.5 var(--narrow);
  color: var(--quiet);
}
dd {
  margin: 0;
}
.measure,
.thought {
  display: grid;
  align-content: start;
  gap: 6px;
}
.which {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
}
.which button {
  padding: 2px 1px;
  border: 0;
  border-bottom: 3px solid transparent;
  background: none;
  cursor: pointer;
  font: 600 15px var(--narrow);
}
.which .on {
  border-color: var(--dye);
  color: var(--dye);
}
.line {
  display: flex;
  align-items: center;
  gap: 10px;
  min-width: 0;
}
.line :deep(.p-inputtext),
.line :deep(.p-select) {
  flex: 1;
  min-width: 0;
}
.step {
  width: 32px;
  height: 32px;
  border: 1px solid var(--hair);
  background: var(--sheet);
  cursor: pointer;
  font-size: 18px;
  line-height: 1;
}
.bore {
  min-width: 76px;
  text-align: center;
}
@media (max-width: 1000px) {
  .panel {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
