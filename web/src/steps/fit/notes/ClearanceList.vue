<script setup lang="ts">
/** Room between parts: where, measured how, needed, and whether it is enough; short room with what comes off where. */
import Button from 'primevue/button'
import { computed, reactive, ref } from 'vue'
import type { Schemas } from '@/api/client'
import KeyCap from '@/frame/KeyCap.vue'
import ChoiceField from '@/ui/ChoiceField.vue'
import { sent } from '@/ui/figures'
import TextField from '@/ui/TextField.vue'
import type { Notes } from './useNotes'

type Clearance = Schemas['ClearanceView']
const props = defineProps<{ notes: Notes }>()
const emit = defineEmits<{ keep: [note: Schemas['NoteBody'], known?: { id: string; version: number }] }>()
const open = ref<'new' | Clearance>()
const form = reactive({
  place: '',
  parts: '',
  measured: '',
  gauge: 'clay',
  meets: 'both on the engine',
  rocks: '',
  needed: '',
  first: '',
  firstWall: '',
  firstLeast: '',
  second: '',
  secondWall: '',
  secondLeast: '',
})
const choices = (words: readonly string[]) => words.map((value) => ({ label: value, value }))
const gauges = computed(() => choices(props.notes.gauges))
const meetings = computed(() => choices(props.notes.meetings))
function begin(one?: Clearance): void {
  const said = one?.said
  const [first, second] = said?.walls ?? []
  Object.assign(form, {
    place: said?.place ?? '',
    parts: said?.parts ?? '',
    measured: '',
    gauge: said?.gauge ?? 'clay',
    meets: said?.meets ?? 'both on the engine',
    rocks: said?.rocks_mm ? `${said.rocks_mm}` : '',
    needed: said?.needed_mm == null ? '' : `${said.needed_mm}`,
    first: first?.name ?? '',
    firstWall: `${first?.wall_mm ?? ''}`,
    firstLeast: `${first?.least_mm ?? ''}`,
    second: second?.name ?? '',
    secondWall: `${second?.wall_mm ?? ''}`,
    secondLeast: `${second?.least_mm ?? ''}`,
  })
  open.value = one ?? 'new'
}
const walls = () =>
  [
    { name: form.first, wall_mm: form.firstWall, least_mm: form.firstLeast },
    { name: form.second, wall_mm: form.secondWall, least_mm: form.secondLeast },
  ].filter((w) => w.name)
function save(): void {
  const clearance = {
    place: form.place,
    parts: form.parts,
    measured_mm: form.measured,
    gauge: form.gauge,
    meets: form.meets,
    rocks_mm: sent(form.rocks) ?? 0,
    needed_mm: sent(form.needed),
    walls: walls(),
  }
  const known = open.value === 'new' || !open.value ? undefined : open.value
  emit('keep', { clearance } as never, known && { id: known.id, version: known.version })
}
defineExpose({ begin, close: () => (open.value = undefined) })
</script>

<template>
  <section aria-label="Room">
    <h3>Room</h3>
    <p v-if="!notes.clearances.length" class="quiet">
      Nothing measured yet. Clay on bolt heads and on what lies beneath, then note what is left.
    </p>
    <div v-for="c in notes.clearances" :key="c.id" class="row">
      <span
        ><b>{{ c.place }}</b
        ><small class="quiet">{{ c.parts }}</small></span
      >
      <span class="mono"
        >{{ c.measured }}<small class="quiet">needed {{ c.needed }}</small></span
      >
      <span :class="c.enough ? 'ink' : 'doubt'"
        ><b>{{ c.verdict }}</b
        ><small v-if="c.relief">{{ c.relief }}</small></span
      >
      <button type="button" class="way" @click="begin(c)">measure again</button>
    </div>
    <form
      v-if="open"
      class="fields"
      aria-label="Clearance"
      @submit.prevent="save"
      @keydown.esc.stop="open = undefined"
    >
      <TextField v-model="form.place" label="Where" place="note.clearance.place" focus />
      <TextField v-model="form.parts" label="Between" placeholder="runner floor, bracket" />
      <TextField v-model="form.measured" label="Measured, mm" place="note.clearance.measured_mm" />
      <ChoiceField v-model="form.gauge" label="By" :options="gauges" />
      <ChoiceField v-model="form.meets" label="How they stand" :options="meetings" />
      <TextField v-model="form.rocks" label="Engine rocks nearer, mm" place="note.clearance.rocks_mm" />
      <TextField v-model="form.needed" label="Needed, mm (its maker's)" place="note.clearance.needed_mm" />
      <span />
      <TextField v-model="form.first" label="May give room" placeholder="bracket tab" />
      <TextField v-model="form.firstWall" label="Its wall, mm" place="note.clearance.walls.0" />
      <TextField v-model="form.firstLeast" label="Has to stay, mm" />
      <span />
      <TextField v-model="form.second" label="And the other" placeholder="runner floor" />
      <TextField v-model="form.secondWall" label="Its wall, mm" place="note.clearance.walls.1" />
      <TextField v-model="form.secondLeast" label="Has to stay, mm" />
      <Button type="submit">Keep <KeyCap k="Enter" /></Button>
    </form>
    <button v-else type="button" class="way" @click="begin()">Measure a place <KeyCap k="R" /></button>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 6px;
  justify-items: start;
}
.row {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.2fr) minmax(0, 1.2fr) auto;
  gap: 14px;
  width: 100%;
  padding: 6px 0;
  border-top: 1px solid var(--faint);
  line-height: 1.25;
}
small {
  display: block;
  font: 400 13.5px/1.25 var(--narrow);
}
.row .way {
  align-self: start;
}
.row b {
  font-weight: 600;
}
.doubt {
  color: var(--doubt);
}
.fields {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 8px 12px;
  width: 100%;
  align-items: end;
}
.fields :deep(input) {
  width: 100%;
}
@media (max-width: 760px) {
  .fields {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
}
</style>
