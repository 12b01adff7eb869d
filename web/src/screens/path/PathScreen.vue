<script setup lang="ts">
/** The job's home: its air path large and to scale, what is known of each element, the builds and the story so far. */
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, nextTick, onMounted, ref, shallowRef, watch } from 'vue'
import AirPath from '@/airpath/AirPath.vue'
import type { PathElement, PathNode } from '@/airpath/layout'
import { get, newId, now, patch, put, Refused, type Schemas } from '@/api/client'
import KeyCap from '@/shared/KeyCap.vue'
import { useKeys } from '@/shared/keys'
import Margin from '@/shared/Margin.vue'
import { useSession } from '@/shared/session'
import { day } from '@/shared/words'
import { useJob } from '../job'

const { id: jobId, job, reload } = useJob()
const { units, personId } = useSession()
const sheet = shallowRef<Schemas['BenchSheet']>()
const buildIndex = ref(-1)
const selected = ref<string>()
const quantity = ref<'bore' | 'length'>('bore')
const typed = ref('')
const error = ref('')
const entry = ref<{ $el: HTMLInputElement }>()
const ports = computed(() => elements.value.filter((e) => e.kind === 'runner').length)
const height = computed(() => Math.max(280, Math.min(window.innerHeight - 400, 90 + ports.value * 44)))

const build = computed(() => job.value?.builds.at(buildIndex.value))
const elements = computed(() => (build.value ? listed(build.value.path) : []))
const element = computed(() => elements.value.find((e) => e.node_id === selected.value))

function listed(node: PathNode): PathElement[] {
  return node.element ? [node.element] : (node.nodes ?? []).flatMap(listed)
}

async function load(): Promise<void> {
  sheet.value = await get(`/api/jobs/${jobId}/bench?units=${units.value}`)
}
onMounted(load)
watch(units, load)

async function select(e: PathElement): Promise<void> {
  selected.value = e.node_id
  error.value = ''
  typed.value = ''
  quantity.value = e.bore_mm == null ? 'bore' : 'length'
  await nextTick()
  entry.value?.$el.focus()
}

function step(by: number): void {
  const at = elements.value.findIndex((e) => e.node_id === selected.value)
  const next = elements.value[(at + by + elements.value.length) % elements.value.length]
  if (next) void select(next)
}

/** A measurement needs a part: an element without one gets it first. */
async function stateOf(e: PathElement): Promise<string> {
  if (e.part_state_id) return e.part_state_id
  const state_id = newId()
  await put(`/api/parts/${newId()}`, {
    person_id: personId.value,
    job_id: jobId,
    kind: e.kind,
    name: e.label,
    state_id,
  })
  const current = build.value
  if (current) {
    await patch(`/api/builds/${current.id}`, {
      version: current.version,
      node_id: e.node_id,
      part_state_id: state_id,
    })
  }
  return state_id
}

async function measure(): Promise<void> {
  const e = element.value
  if (!e || !typed.value.trim()) return
  try {
    await put(`/api/dimensions/${newId()}`, {
      person_id: personId.value,
      job_id: jobId,
      part_state_id: await stateOf(e),
      element_kind: e.kind,
      quantity: quantity.value,
      typed: typed.value,
      taken_at: now(),
      cylinder: e.cylinder,
    })
    error.value = ''
    typed.value = ''
    await reload()
  } catch (caught) {
    if (caught instanceof Refused) error.value = caught.problem.detail
    else error.value = 'Elvarn does not answer. The figure stays here; press Enter again.'
  }
}

useKeys([
  { key: 'ArrowRight', says: 'next element', run: () => step(1) },
  { key: 'ArrowLeft', says: 'element before', run: () => step(-1) },
  {
    key: 'v',
    says: 'next build',
    run: () =>
      (buildIndex.value =
        (Math.max(0, job.value!.builds.indexOf(build.value!)) + 1) % job.value!.builds.length),
  },
])

const unmeasured = computed(() => elements.value.filter((e) => e.bore_mm == null))
const sentences = computed(() => sheet.value?.margin ?? [])
</script>

<template>
  <div v-if="job && build" class="path">
    <section class="home">
      <div class="head">
        <div>
          <h1>{{ job.title }}</h1>
          <p class="narrow quiet">
            {{
              [job.kind_title, job.customer && `for ${job.customer}`, job.flow_basis]
                .filter(Boolean)
                .join(' · ')
            }}
          </p>
        </div>
        <div class="builds" role="group" aria-label="Builds">
          <button
            v-for="(b, i) in job.builds"
            :key="b.id"
            type="button"
            :class="{ on: b.id === build.id }"
            @click="buildIndex = i"
          >
            {{ b.name }}
          </button>
          <KeyCap v-if="job.builds.length > 1" k="V" />
        </div>
      </div>
      <AirPath
        :tree="build.path"
        size="large"
        :height="height"
        :selected="selected"
        :label="`Air path, ${build.name}`"
        @select="select"
      />
      <div class="below">
        <form v-if="element" class="element" @submit.prevent="measure" @keydown.esc="selected = undefined">
          <h2>{{ element.label }}</h2>
          <dl>
            <div>
              <dt>Bore</dt>
              <dd class="mono">
                {{ element.bore_mm == null ? 'not measured' : `${element.bore_mm.toFixed(1)} mm`
                }}{{ element.bore_out_mm != null ? ` → ${element.bore_out_mm.toFixed(1)} mm` : '' }}
              </dd>
            </div>
            <div>
              <dt>Length</dt>
              <dd class="mono">
                {{ element.length_mm == null ? 'not measured' : `${element.length_mm.toFixed(0)} mm` }}
              </dd>
            </div>
            <div v-if="element.volume_l != null">
              <dt>Volume</dt>
              <dd class="mono">{{ element.volume_l.toFixed(2) }} L</dd>
            </div>
            <div>
              <dt>Flow</dt>
              <dd class="mono">
                <template v-if="element.flow">{{ element.flow.text }} {{ element.flow.unit }}</template>
                <em v-else-if="element.ceiling"
                  >at most {{ element.ceiling.text }} {{ element.ceiling.unit }}, by its bore</em
                >
                <template v-else>not measured</template>
              </dd>
            </div>
          </dl>
          <div class="measure">
            <div class="which" role="group" aria-label="What is measured">
              <button type="button" :class="{ on: quantity === 'bore' }" @click="quantity = 'bore'">
                bore
              </button>
              <button type="button" :class="{ on: quantity === 'length' }" @click="quantity = 'length'">
                length
              </button>
            </div>
            <InputText
              ref="entry"
              v-model="typed"
              size="small"
              :aria-label="`${quantity} of ${element.label}`"
              placeholder="70 mm or 2 3/4 in"
              :invalid="!!error"
            />
            <Button type="submit" size="small">Keep <KeyCap k="Enter" /></Button>
          </div>
          <p v-if="error" class="harm" role="alert">{{ error }}</p>
        </form>
        <div v-else class="hint">
          <p class="quiet">
            <KeyCap k="← →" /> goes along the path: an element shows what is known of it, and takes its bore
            and length.
            <template v-if="unmeasured.length">
              {{ unmeasured.length }} of {{ elements.length }} have no measured bore and are drawn hatched, in
              a usual size.
            </template>
          </p>
          <h3>So far</h3>
          <ol>
            <li v-for="(e, i) in job.story" :key="i">
              <span class="quiet narrow">{{ day(e.day) }}</span> {{ e.words }}
            </li>
          </ol>
        </div>
        <dl class="facts">
          <div v-if="job.engine">
            <dt>Engine</dt>
            <dd>
              {{ job.engine.name
              }}<template v-if="job.engine.displacement_l"
                >, {{ job.engine.displacement_l.toFixed(2) }} L</template
              >
              <span v-if="job.engine.bore && job.engine.stroke" class="quiet">
                · bore {{ job.engine.bore.text }} × stroke {{ job.engine.stroke.text }}
                {{ job.engine.stroke.unit }}</span
              >
            </dd>
          </div>
          <div v-if="job.use || job.band_low_rpm">
            <dt>Goal</dt>
            <dd>
              {{ job.use
              }}<span v-if="job.band_low_rpm" class="quiet"
                >, {{ job.band_low_rpm }} to {{ job.band_high_rpm }} rpm</span
              >
            </dd>
          </div>
          <div v-for="p in job.parts" :key="p.id">
            <dt>{{ p.kind }}</dt>
            <dd>
              {{ p.name }}
              <span class="quiet">
                {{ [p.maker, p.number].filter(Boolean).join(' · ') }} ·
                {{ p.states.map((s) => s.label).join(' → ') }}
              </span>
            </dd>
          </div>
          <div v-if="job.due_on">
            <dt>Due</dt>
            <dd>{{ day(job.due_on) }}</dd>
          </div>
        </dl>
      </div>
    </section>
    <Margin title="What the figures say" :sentences="sentences.filter((s) => s.tone !== 'next')">
      <template #end>
        <h3>Next</h3>
        <p>
          <RouterLink :to="`/jobs/${jobId}/${job.step}`">{{ job.next }}</RouterLink>
        </p>
      </template>
    </Margin>
  </div>
</template>

<style scoped>
.path {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 280px;
  min-height: 0;
}
.home {
  padding: 16px 24px 20px;
  overflow-y: auto;
}
.head {
  display: flex;
  justify-content: space-between;
  align-items: start;
  gap: 20px;
}
.builds,
.which {
  display: flex;
  gap: 4px 14px;
  align-items: center;
  flex-wrap: wrap;
}
.builds button,
.which button {
  padding: 3px 2px;
  border: 0;
  border-bottom: 3px solid transparent;
  background: none;
  cursor: pointer;
  font-weight: 600;
}
.builds .on,
.which .on {
  border-color: var(--dye);
  color: var(--dye);
}
.below {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 32px;
  padding-top: 12px;
  border-top: 1px solid var(--hair);
}
dl {
  margin: 0;
}
dl > div {
  display: grid;
  grid-template-columns: 84px 1fr;
  padding: 3px 0;
  border-bottom: 1px solid var(--faint);
}
dt {
  font: 500 15px/1.5 var(--narrow);
  color: var(--quiet);
}
dt::first-letter {
  text-transform: uppercase;
}
dd {
  margin: 0;
}
.measure {
  display: flex;
  gap: 12px;
  align-items: center;
  padding-top: 8px;
}
.measure :deep(.p-inputtext) {
  flex: 1;
  min-width: 0;
}
.hint {
  display: grid;
  align-content: start;
  gap: 8px;
}
.hint ol {
  margin: 0;
  padding: 0;
  list-style: none;
}
.hint li {
  display: grid;
  grid-template-columns: 62px 1fr;
  padding: 2px 0;
}
@media (max-width: 1000px) {
  .path,
  .below {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
