<script setup lang="ts">
/** Whether a copy of all that is kept is made every day, and where. */
import Button from 'primevue/button'
import { ref, watch } from 'vue'
import { api, told } from '@/api/client'
import { useSheet } from '@/api/sheet'
import { copyWords } from '@/board/copy'
import CheckField from '@/ui/CheckField.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import TextField from '@/ui/TextField.vue'
import { dayAndTime } from '@/ui/words'
import { useKeeping } from './keeping'

const { sheet: view, load } = useSheet(() => told(api.GET('/api/settings/safekeeping')))
const daily = ref(true)
const folder = ref('')
const { problem, kept, keep } = useKeeping(load)

watch(view, (found) => {
  if (!found) return
  daily.value = found.settings.daily ?? true
  folder.value = found.settings.folder ?? ''
})

async function keepCopy(version: number): Promise<void> {
  const settings = { daily: daily.value, folder: folder.value }
  await keep(() => told(api.PATCH('/api/settings/safekeeping', { body: { version, settings } })))
}
</script>

<template>
  <form v-if="view" @submit.prevent="keepCopy(view.version)">
    <h2>Daily copy</h2>
    <p :class="{ doubt: view.last.problem }">
      {{ copyWords(view.settings.daily ?? true, view.last, new Date(), dayAndTime).text }}
    </p>
    <div class="row">
      <CheckField v-model="daily" label="Copy everything once a day" />
      <span class="quiet">Database, pulls and pictures in one file; those of the last week are kept.</span>
    </div>
    <div class="row">
      <TextField v-model="folder" label="Into the folder" :invalid="problem?.path === 'settings.folder'" />
      <span class="quiet"
        >On the machine that Elvarn runs on; best on another disk. Left empty: beside the data, where a broken
        disk takes both.</span
      >
    </div>
    <ProblemNote v-if="problem" :problem="problem" />
    <p class="ways">
      <Button type="submit" severity="secondary">Keep the copy's settings</Button>
      <span v-if="kept" role="status">Saved.</span>
    </p>
    <p class="quiet">
      A copy at any time: <code>./elvarn backup FILE</code>. Read back into a new folder:
      <code>./elvarn restore FILE --data FOLDER</code>.
    </p>
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 12px;
  max-width: 820px;
  padding-top: 28px;
}
.row {
  display: grid;
  grid-template-columns: 280px 1fr;
  gap: 24px;
  align-items: end;
}
.row > span:last-child {
  padding-bottom: 8px;
}
code {
  font-family: var(--mono);
  font-size: 14px;
}
</style>
