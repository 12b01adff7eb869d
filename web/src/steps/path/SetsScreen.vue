<script setup lang="ts">
/** Which parts together, for this money and by this date: the best sets beside leaving all as it is. */
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, newId, problemIn, told } from '@/api/client'
import { useSheet } from '@/api/sheet'
import StairPlate from '@/charts/StairPlate.vue'
import { useJob } from '@/frame/job'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import { useSession } from '@/frame/session'
import Margin from '@/ui/Margin.vue'
import NotShown from '@/ui/NotShown.vue'
import Screen from '@/ui/Screen.vue'
import { day } from '@/ui/words'
import { wantParts } from '@/shelf/wanting'
import { spanText } from './criteria'
import SetRow from './SetRow.vue'

const { id: jobId, reload } = useJob()
const { personId } = useSession()
const route = useRoute()
const router = useRouter()
const build = typeof route.query['build'] === 'string' ? route.query['build'] : undefined
const marked = ref(0)
const refusal = ref('')
const { sheet, failure } = useSheet(() =>
  told(api.GET('/api/jobs/{job_id}/sets', { params: { path: { job_id: jobId }, query: { build } } })),
)
const sets = computed(() => sheet.value?.sets ?? [])
const current = computed(() => sets.value[marked.value])
watch(sheet, () => {
  marked.value = Math.max(
    0,
    sets.value.findIndex((s) => s.why === 'your priorities'),
  )
})
const changing = computed(() => sets.value.filter((s) => s.parts.length))
const single = computed(() => {
  const place = sheet.value?.places[0]
  return `/jobs/${jobId}/candidates?build=${sheet.value?.build_id ?? ''}${place ? `&kind=${place.kind}` : ''}`
})
const money = (value: number | null) =>
  value == null ? 'no price' : `${value.toFixed(0)} ${sheet.value?.currency ?? ''}`

function move(by: number): void {
  marked.value = Math.min(sets.value.length - 1, Math.max(0, marked.value + by))
}

async function makeBuild(): Promise<void> {
  const set = current.value
  if (!set?.parts.length || !sheet.value) return
  const id = newId()
  const swaps = set.parts.flatMap((p) =>
    p.node_ids.map((node_id) => ({ node_id, part_state_id: p.state_id })),
  )
  try {
    const body = { person_id: personId.value, copy_of: sheet.value.build_id, swaps }
    await told(api.PUT('/api/build-copies/{build_id}', { params: { path: { build_id: id } }, body }))
    await reload()
    await router.push(`/jobs/${jobId}/path?build=${id}`)
  } catch (error) {
    refusal.value = problemIn(error, 'The build is not made. Try again.').detail
  }
}

async function want(): Promise<void> {
  const set = current.value
  if (!set?.parts.length) return
  try {
    await wantParts(personId.value, jobId, set.parts)
    refusal.value = ''
  } catch (error) {
    refusal.value = problemIn(error, 'Not on the order list. Try again.').detail
  }
}

useKeys([
  { key: 'ArrowDown', says: 'next set', run: () => move(1) },
  { key: 'ArrowUp', says: 'previous set', run: () => move(-1) },
  { key: 'b', says: 'make the marked set a build', run: () => void makeBuild() },
  { key: 'o', says: 'put the marked set on the order list', run: () => void want() },
  { key: 'k', says: 'candidates, one place at a time', run: () => void router.push(single.value) },
])
</script>

<template>
  <Screen v-if="sheet">
    <header>
      <h2>Sets of parts</h2>
      <p class="quiet narrow">
        build {{ sheet.build }} · rpm band {{ sheet.band }} · {{ sheet.held }} sets compared{{
          sheet.budget != null ? ` · budget ${money(sheet.budget)}` : ''
        }}{{ sheet.due_on ? ` · due ${day(sheet.due_on)}` : '' }}
      </p>
    </header>
    <ol class="rows" aria-label="Sets">
      <SetRow
        v-for="(s, i) in sets"
        :key="s.key"
        :set="s"
        :places="sheet.places"
        :rank="sets.slice(0, i + 1).filter((o) => o.parts.length).length"
        :on="i === marked"
        :currency="sheet.currency"
        @click="marked = i"
      />
    </ol>
    <StairPlate
      v-if="changing.length"
      :sets="changing"
      :marked="current?.key ?? ''"
      :budget="sheet.budget ?? null"
      :currency="sheet.currency"
      :height="215"
    />
    <section v-if="current?.parts.length" class="steps" aria-label="Step by step">
      <h3>Step by step</h3>
      <ol>
        <li v-for="(s, i) in current.steps" :key="i">
          <span class="mono">{{ i + 1 }}</span>
          <strong>{{ s.names.join(' + ') }}</strong>
          <span class="mono">{{ spanText(s.gain_low_percent, s.gain_high_percent) }}</span>
          <span class="mono">{{ money(s.spent) }}</span>
          <span class="narrow doubt">{{
            s.only_for_now.length ? `until the next step only: ${s.only_for_now.join(', ')}` : ''
          }}</span>
        </li>
      </ol>
      <template v-for="p in current.parts" :key="p.part_id">
        <p
          v-for="c in p.conflicts.filter((one) => one.severity !== 'information')"
          :key="c.code + c.text"
          class="against"
        >
          <strong>{{ p.name }}</strong> {{ c.text }} <span class="quiet">{{ c.remedy }}</span>
          <span v-if="c.minutes" class="mono">&nbsp;{{ c.minutes.toFixed(0) }} min</span>
        </p>
        <p v-if="p.unchecked.length" class="against">
          <strong>{{ p.name }}</strong> <span class="doubt">not checked: {{ p.unchecked.join(', ') }}</span>
        </p>
      </template>
    </section>
    <p class="doing">
      <Button v-if="current?.parts.length" size="small" @click="makeBuild"
        >Make it a build <KeyCap k="B"
      /></Button>
      <Button v-if="current?.parts.length" size="small" severity="secondary" @click="want"
        >Put on the order list <KeyCap k="O"
      /></Button>
      <Button as="router-link" :to="single" size="small" severity="secondary"
        >One place at a time <KeyCap k="K"
      /></Button>
      <span class="quiet narrow"
        >Gains are estimates; a pull decides. Three pulls of each show {{ sheet.shown_percent.toFixed(1) }} %
        or more.</span
      >
    </p>
    <p v-if="failure || refusal" class="harm" role="alert">{{ failure || refusal }}</p>
    <template #margin><Margin title="Why" :sentences="sheet.margin" /></template>
  </Screen>
  <NotShown v-else :why="failure" />
</template>

<style scoped>
.rows {
  list-style: none;
  margin: 6px 0 14px;
  padding: 0;
  border-top: 1px solid var(--hair);
}
.steps {
  padding-top: 8px;
}
.steps ol {
  margin: 0;
  padding: 0;
  list-style: none;
}
.steps li {
  display: grid;
  grid-template-columns: 22px minmax(0, 1fr) 130px 110px minmax(0, 1fr);
  gap: 4px 12px;
  padding: 4px 8px;
  border-bottom: 1px solid var(--faint);
}
.against {
  padding: 3px 8px;
  font-size: 15px;
}
.doing {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 16px;
  padding-top: 12px;
}
@media (max-width: 1000px) {
  .steps li {
    grid-template-columns: 22px minmax(0, 1fr) 120px 100px;
  }
}
</style>
