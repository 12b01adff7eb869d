<script setup lang="ts">
/** What waits to be sent, and why; what was not delivered, each with its reason and its ways on. */
import Dialog from 'primevue/dialog'
import { ref, watch } from 'vue'
import { answer, useOutbox, withdraw, type Write } from '@/api/outbox'
import { useKeys } from './keys'
import KeyCap from './KeyCap.vue'

const { aside, reachable, reason, waiting } = useOutbox()
const visible = ref(false)
const WHY: Record<string, string> = {
  unavailable: 'the database comes back',
  no_room: 'the disk is full',
  no_key: 'not let in',
}
const WHAT: Record<Write['about']['what'], string> = {
  bench: 'a bench',
  setup: 'a set-up',
  flow: 'a figure',
  strike: 'a strike-out',
  cut: 'a cut',
  check: 'a check of the bench',
  point: 'a figure of a test',
}
const named = ({ about, body, shown }: Write) => {
  const what = about.cylinder ? `${WHAT[about.what]} of runner ${about.cylinder}` : WHAT[about.what]
  const figure = String(body['typed'] ?? shown ?? '')
  return figure ? `${what}: ${figure}` : what
}

useKeys([{ key: 'j', says: 'what was not delivered', run: () => (visible.value = aside.value.length > 0) }])
watch(aside, (left) => {
  if (!left.length) visible.value = false
})
</script>

<template>
  <span v-if="!reachable" class="doubt waiting" role="status"
    >{{ WHY[reason] ?? 'no connection' }} · {{ waiting }} waiting</span
  >
  <button v-if="aside.length" type="button" class="aside doubt" @click="visible = true">
    {{ aside.length }} not delivered <KeyCap k="J" />
  </button>
  <Dialog
    v-model:visible="visible"
    modal
    dismissable-mask
    header="Not delivered"
    :style="{ width: '720px', maxWidth: '96vw' }"
  >
    <p class="quiet">What stands here is kept in this browser alone. Nothing else waits for it.</p>
    <ul>
      <li v-for="w in aside" :key="w.id">
        <p>
          <strong class="typed">{{ named(w) }}</strong> <br />{{ w.problem?.detail }}
        </p>
        <p class="ways">
          <button v-if="w.path" type="button" class="way" @click="answer(w.id, {})">Send again</button>
          <button type="button" class="way" @click="withdraw(w.id)">Drop it</button>
        </p>
      </li>
    </ul>
  </Dialog>
</template>

<style scoped>
.waiting,
.aside {
  font: 600 15px var(--narrow);
}
.aside {
  background: none;
  border: 0;
  cursor: pointer;
}
ul {
  display: grid;
  gap: 14px;
  margin: 14px 0 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 18px;
  align-items: center;
  border-top: 1px solid var(--hair);
  padding-top: 12px;
}
.typed {
  overflow-wrap: anywhere;
}
</style>
