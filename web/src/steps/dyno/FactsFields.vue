<script setup lang="ts">
/** The fields of what is said of a pull: whose build, when and where, in which air, and what was set up. */
import { computed, ref } from 'vue'
import ChoiceField from '@/ui/ChoiceField.vue'
import TextField from '@/ui/TextField.vue'
import { useSession } from '@/frame/session'
import type { Schemas } from '@/api/client'
import type { FactsForm } from './pullFacts'

/** `following`: whose pull it is was chosen elsewhere, and what is declared follows the pull before. */
const props = defineProps<{
  designs: Schemas['DesignView'][]
  items: Schemas['DeclaredItem'][]
  following?: boolean
}>()
const form = defineModel<FactsForm>({ required: true })
const { shop } = useSession()
const dynos = computed(() =>
  (shop.value?.dynos ?? []).map((d) => ({ id: d.id, label: `${d.name}, ${d.kind_words}` })),
)
const standards = computed(() =>
  (shop.value?.standards ?? []).map((s) => ({
    value: s.word,
    label: s.word === 'observed' ? 'uncorrected' : `already ${s.label}`,
  })),
)
/** What was said of is open; the rest folds away. */
const said = computed(() => props.items.map((i) => form.value.declared[i.word]).filter(Boolean))
const open = ref(!props.following && said.value.length > 0)
</script>

<template>
  <div class="fields">
    <ChoiceField
      v-if="!following"
      v-model="form.build_id"
      label="Build"
      small
      :options="designs"
      shown="name"
      kept="build_id"
    />
    <ChoiceField v-model="form.dyno_id" label="Dyno" small :options="dynos" shown="label" kept="id" />
    <ChoiceField v-model="form.standard_in_file" label="Figures in the file" small :options="standards" />
    <TextField v-model="form.date" label="Date" small type="date" place="facts.pulled_at" />
    <TextField v-model="form.time" label="Time" small type="time" />
    <TextField v-model="form.label" label="Name" small />
    <TextField
      v-model="form.temperature"
      label="Intake air, °C"
      small
      placeholder="not known"
      place="facts.air_temperature_c"
    />
    <TextField
      v-model="form.pressure"
      label="Station pressure, kPa"
      small
      placeholder="29.5 inHg"
      place="facts.air_pressure_kpa"
    />
    <TextField
      v-model="form.humidity"
      label="Humidity, %, dew or wet"
      small
      placeholder="not known, or dew 9 °C"
      place="facts.air_humidity_percent"
    />
    <button type="button" class="plain-button more narrow" :aria-expanded="open" @click="open = !open">
      {{ open ? '▾' : '▸' }}
      {{
        open || !said.length
          ? 'Fuel, tune, gear, engine: only pulls that are alike are compared'
          : `As before: ${said.join(' · ')}`
      }}
    </button>
    <template v-if="open">
      <TextField
        v-for="i in items"
        :key="i.word"
        :model-value="form.declared[i.word] ?? ''"
        :label="i.label"
        :placeholder="i.example"
        small
        @update:model-value="form.declared[i.word] = $event"
      />
    </template>
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 8px 18px;
}
.more {
  grid-column: 1 / -1;
  text-align: left;
  color: var(--quiet);
}
</style>
