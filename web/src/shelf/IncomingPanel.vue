<script setup lang="ts">
/** What a dropped file would bring to the shelf: new parts, and in what others differ; each is taken or left. */
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import KeyCap from '@/frame/KeyCap.vue'
import CheckField from '@/ui/CheckField.vue'
import { vFocus } from '@/ui/focus'

const props = defineProps<{ name: string; incoming: Schemas['Incoming']; busy: boolean }>()
const emit = defineEmits<{ take: [rows: number[]]; leave: [] }>()
const MOST_SHOWN = 200
const changed = computed(() => props.incoming.rows.filter((row) => row.standing === 'differs'))
const fresh = computed(() => props.incoming.rows.filter((row) => row.standing === 'new'))
const takeNew = ref(true)
/** What differs is left unless it is chosen: what somebody edited here is not overwritten by a file. */
const taken = ref(new Set<number>())

function turn(row: number): void {
  if (!taken.value.delete(row)) taken.value.add(row)
}
const rows = computed(() => [...(takeNew.value ? fresh.value.map((row) => row.row) : []), ...taken.value])
const all = computed(() => changed.value.length > 0 && taken.value.size === changed.value.length)
const every = () => (taken.value = new Set(all.value ? [] : changed.value.map((row) => row.row)))
</script>

<template>
  <form
    class="incoming"
    aria-label="What the file would bring"
    @submit.prevent="emit('take', rows)"
    @keydown.esc="emit('leave')"
  >
    <h2>{{ name }}</h2>
    <p>
      {{ incoming.new }} new, {{ incoming.differs }} that differ, {{ incoming.same }} the same as
      here<template v-if="incoming.twice"
        >, {{ incoming.twice }} named twice in the file (the first counts)</template
      >.
    </p>
    <CheckField v-if="fresh.length" v-model="takeNew" :label="`take the ${fresh.length} new`" />
    <template v-if="changed.length">
      <button type="button" class="way" @click="every">
        {{ all ? 'leave all that differ' : 'take all that differ' }}
      </button>
      <table>
        <tbody>
          <tr v-for="row in changed.slice(0, MOST_SHOWN)" :key="row.row">
            <td>
              <CheckField
                :model-value="taken.has(row.row)"
                :label="row.name"
                @update:model-value="turn(row.row)"
              />
              <span class="quiet narrow">{{
                [row.kind, row.maker, row.number].filter(Boolean).join(' · ')
              }}</span>
            </td>
            <td>
              <span v-for="one in row.differences" :key="one.field" class="one">
                <span class="narrow quiet">{{ one.field }}</span> {{ one.here }} → <b>{{ one.file }}</b>
              </span>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-if="changed.length > MOST_SHOWN" class="quiet">
        and {{ changed.length - MOST_SHOWN }} more that differ
      </p>
    </template>
    <p class="line">
      <Button type="submit" size="small" v-focus :disabled="busy || !rows.length"
        >{{ busy ? 'Taking' : 'Take' }} {{ rows.length }} {{ rows.length === 1 ? 'part' : 'parts' }}
        <KeyCap k="Enter"
      /></Button>
      <Button outlined size="small" @click="emit('leave')">Leave it <KeyCap k="Esc" /></Button>
      <progress v-if="busy" aria-label="Import running" />
    </p>
  </form>
</template>

<style scoped>
.incoming {
  display: grid;
  gap: 8px;
  justify-items: start;
  padding: 12px 0;
  border-bottom: 1px solid var(--hair);
}
table {
  border-collapse: collapse;
}
td {
  padding: 3px 18px 3px 0;
  border-top: 1px solid var(--hair);
  vertical-align: top;
}
td:first-child {
  display: grid;
}
.one {
  display: inline-block;
  margin-right: 18px;
}
.line {
  display: flex;
  gap: 12px;
  align-items: center;
}
</style>
