<script setup lang="ts">
/** From what is seen to what this job can have left: likely causes in order, each with its test and what was found. */
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import KeyCap from '@/frame/KeyCap.vue'
import type { Notes } from './useNotes'

const props = defineProps<{ notes: Notes }>()
const emit = defineEmits<{ keep: [note: Schemas['NoteBody'], known?: { id: string; version: number }] }>()
const at = defineModel<number | undefined>('at')
const symptom = computed(() => (at.value == null ? undefined : props.notes.symptoms[at.value]))
function found(cause: Schemas['CauseView'], outcome: string): void {
  const note = { cause: { symptom: symptom.value?.words, cause: cause.words, outcome, words: '' } } as never
  emit('keep', note, cause.id ? { id: cause.id, version: cause.version ?? 0 } : undefined)
}
</script>

<template>
  <section aria-label="Runs badly">
    <h3>Runs badly: what is seen?</h3>
    <p class="ways" role="group" aria-label="What is seen">
      <button
        v-for="(s, n) in notes.symptoms"
        :key="s.words"
        type="button"
        class="way"
        :aria-pressed="n === at"
        @click="at = n === at ? undefined : n"
      >
        <KeyCap :k="`${n + 1}`" /> {{ s.words }}<template v-if="s.found"> ✓</template>
      </button>
    </p>
    <template v-if="symptom">
      <p v-if="symptom.first" class="first" :class="{ harm: symptom.words !== 'lumpy idle' }">
        {{ symptom.first }}
      </p>
      <p v-if="symptom.tell" class="quiet">Tells them apart: {{ symptom.tell }}.</p>
      <ol>
        <li v-for="c in symptom.causes" :key="c.words" :class="{ out: c.outcome === 'not it' }">
          <span
            ><b>{{ c.words }}</b
            ><small class="quiet">{{ c.test }}</small></span
          >
          <span class="ways">
            <button
              type="button"
              class="way"
              :aria-pressed="c.outcome === 'not it'"
              @click="found(c, 'not it')"
            >
              {{ c.outcome === 'not it' ? '✓ ' : '' }}not it
            </button>
            <button
              type="button"
              class="way"
              :aria-pressed="c.outcome === 'found'"
              @click="found(c, 'found')"
            >
              {{ c.outcome === 'found' ? '✓ ' : '' }}found
            </button>
          </span>
        </li>
      </ol>
      <p v-if="!symptom.causes.length" class="quiet">Nothing that this swap touched looks like this.</p>
    </template>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 6px;
}
ol {
  margin: 0;
  padding: 0 0 0 22px;
}
li {
  padding: 5px 0;
  border-top: 1px solid var(--faint);
}
li > span:first-child {
  display: inline-block;
  width: calc(100% - 190px);
  line-height: 1.25;
}
li .ways {
  display: inline-flex;
  vertical-align: top;
}
.out b {
  color: var(--quiet);
  text-decoration: line-through;
}
small {
  display: block;
}
.first {
  font-weight: 600;
}
.harm {
  color: var(--harm);
}
</style>
