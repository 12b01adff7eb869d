<script setup lang="ts">
/** Fault codes: read, cleared, driven, read again; genuine ones come back. */
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import TextField from '@/ui/TextField.vue'
import type { Notes } from './useNotes'

const props = defineProps<{ notes: Notes }>()
const emit = defineEmits<{ keep: [note: Schemas['NoteBody'], known?: { id: string; version: number }] }>()
const code = ref('')
const field = ref<InstanceType<typeof TextField>>()
const STATES = ['seen', 'cleared', 'back', 'gone']
const likely = computed(() =>
  props.notes.likely_codes.filter((l) => !props.notes.codes.some((c) => c.code === l.code)),
)
function add(word: string): void {
  emit('keep', { code: { code: word, state: 'seen', words: '' } })
  code.value = ''
}
const mark = (one: Schemas['CodeView'], state: string) =>
  emit('keep', { code: { code: one.code, state, words: '' } } as never, { id: one.id, version: one.version })
defineExpose({ focus: () => field.value?.select() })
</script>

<template>
  <section aria-label="Fault codes">
    <h3>Fault codes</h3>
    <div v-for="c in notes.codes" :key="c.id" class="row">
      <b class="mono">{{ c.code }}</b>
      <span
        >{{ c.words
        }}<small class="quiet">{{
          [c.behind, c.history.join(' → ')].filter(Boolean).join(' · ')
        }}</small></span
      >
      <span class="ways" role="group" :aria-label="c.code">
        <button
          v-for="s in STATES"
          :key="s"
          type="button"
          class="way"
          :aria-pressed="s === c.state"
          @click="mark(c, s)"
        >
          {{ s === c.state ? '✓ ' : '' }}{{ s }}
        </button>
      </span>
    </div>
    <form class="add" @submit.prevent="add(code)">
      <TextField
        ref="field"
        v-model="code"
        label="Code read"
        placeholder="P0171"
        small
        place="note.code.code"
      />
      <Button type="submit" size="small" outlined>Add</Button>
    </form>
    <p class="quiet">
      This swap can cause
      <button
        v-for="l in likely"
        :key="l.code"
        type="button"
        class="way mono"
        :title="`${l.words}: ${l.behind}`"
        @click="add(l.code)"
      >
        {{ l.code }}
      </button>
    </p>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 6px;
}
.row {
  display: grid;
  grid-template-columns: 70px minmax(0, 1fr) auto;
  gap: 12px;
  align-items: start;
  padding: 6px 0;
  border-top: 1px solid var(--faint);
}
small {
  display: block;
}
.add {
  display: flex;
  gap: 10px;
  align-items: end;
}
</style>
