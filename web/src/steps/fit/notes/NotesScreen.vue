<script setup lang="ts">
/** Room between parts, fault codes, what runs badly and why, what broke on the way, what the driver felt. */
import Button from 'primevue/button'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import type { Schemas } from '@/api/client'
import { useJob } from '@/frame/job'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import CautionList from '@/ui/CautionList.vue'
import KeyRow from '@/ui/KeyRow.vue'
import NotShown from '@/ui/NotShown.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import { provideRefusal } from '@/ui/refusal'
import Screen from '@/ui/Screen.vue'
import TextField from '@/ui/TextField.vue'
import ClearanceList from './ClearanceList.vue'
import CodeList from './CodeList.vue'
import RunsBadly from './RunsBadly.vue'
import { useNotes } from './useNotes'

const { id } = useJob()
const router = useRouter()
const { sheet, failure, problem, keep } = useNotes()
provideRefusal(problem)
const room = ref<InstanceType<typeof ClearanceList>>()
const codes = ref<InstanceType<typeof CodeList>>()
const symptom = ref<number>()
const broken = ref('')
const felt = ref({ before: '', after: '' })

async function keepRoom(note: Schemas['NoteBody'], known?: { id: string; version: number }): Promise<void> {
  if (await keep(note, known)) room.value?.close()
}
async function addBroken(forNow: boolean): Promise<void> {
  if (await keep({ broken: { words: broken.value, for_now: forNow, mended: false } })) broken.value = ''
}
const mended = (b: Schemas['BrokenView']) =>
  void keep({ broken: { words: b.words, for_now: b.for_now, mended: !b.mended } }, b)
async function addFelt(when: 'before' | 'after'): Promise<void> {
  if (await keep({ impression: { when, words: felt.value[when] } })) felt.value[when] = ''
}
useKeys([
  { key: 'r', says: 'measure room at a place', run: () => room.value?.begin() },
  { key: 'c', says: 'fault code read', run: () => codes.value?.focus() },
  ...[0, 1, 2, 3, 4, 5, 6, 7, 8].map((n) => ({
    key: `${n + 1}`,
    says: `what is seen, number ${n + 1}`,
    run: () => (symptom.value = n),
  })),
  { key: 'Escape', says: 'back to the swap sheet', run: () => void router.push(`/jobs/${id}/fit`) },
])
</script>

<template>
  <Screen v-if="sheet">
    <div class="notes">
      <ClearanceList ref="room" :notes="sheet" @keep="keepRoom" />
      <ProblemNote v-if="problem" :problem="problem" />
      <RunsBadly v-model:at="symptom" :notes="sheet" @keep="keep" />
      <CodeList ref="codes" :notes="sheet" @keep="keep" />
      <section aria-label="Broken on the way">
        <h3>Broken or bodged on the way</h3>
        <p v-for="b in sheet.broken" :key="b.id" class="row">
          <span>{{ b.words }}</span>
          <span v-if="b.for_now" :class="b.mended ? 'quiet' : 'doubt'">{{
            b.mended ? 'since mended for good' : 'for now: keeps sign-off open'
          }}</span>
          <span v-else class="quiet">for good</span>
          <button v-if="b.for_now" type="button" class="way" @click="mended(b)">
            {{ b.mended ? 'for now after all' : 'mended for good' }}
          </button>
        </p>
        <form class="add" @submit.prevent="addBroken(true)">
          <TextField v-model="broken" label="What, and what was done" small place="note.broken.words" />
          <Button type="submit" size="small" outlined>For now</Button>
          <Button size="small" outlined @click="addBroken(false)">For good</Button>
        </form>
      </section>
      <section aria-label="The driver's impression">
        <h3>What the driver felt: an impression, in no verdict</h3>
        <p v-for="i in sheet.impressions" :key="i.id" class="row">
          <span class="quiet">{{ i.when }}</span><span>{{ i.words }}</span>
        </p>
        <form
          v-for="when in ['before', 'after'] as const"
          :key="when"
          class="add"
          @submit.prevent="addFelt(when)"
        >
          <TextField v-model="felt[when]" :label="`Felt ${when}`" small place="note.impression.words" />
          <Button type="submit" size="small" outlined>Add</Button>
        </form>
      </section>
      <KeyRow>
        <router-link :to="`/jobs/${id}/fit`"><KeyCap k="Esc" /> swap sheet</router-link>
      </KeyRow>
    </div>
    <template #margin>
      <aside class="cautions" aria-label="Cautions">
        <CautionList :cautions="sheet.cautions" />
      </aside>
    </template>
  </Screen>
  <NotShown v-else :why="failure" />
</template>

<style scoped>
.notes {
  display: grid;
  gap: 20px;
  max-width: 900px;
}
section {
  display: grid;
  gap: 4px;
}
.row,
.add {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
  align-items: center;
  padding: 4px 0;
}
.row {
  border-top: 1px solid var(--faint);
}
.row > span:first-child:not(.quiet) {
  flex: 1;
}
.add {
  align-items: end;
}
.add > :deep(.field) {
  flex: 1;
}
.doubt {
  color: var(--doubt);
  font-weight: 600;
}
.cautions {
  display: grid;
  align-content: start;
  gap: 12px;
  padding: 18px 22px;
  border-left: 1px solid var(--hair);
}
</style>
