<script setup lang="ts">
/** The list of keys: those of this screen first, then where `g` goes. */
import Dialog from 'primevue/dialog'
import { computed } from 'vue'
import KeyCap from './KeyCap.vue'
import { liveKeys } from './keys'
import { useSession } from './session'

const visible = defineModel<boolean>('visible', { required: true })
const here = computed(() => (visible.value ? liveKeys() : []))
const { shop } = useSession()
const goes = computed(() => [
  { letters: ['s'], place: 'Jobs board' },
  { letters: ['l'], place: 'Shelf' },
  { letters: ['w'], place: 'Order list' },
  { letters: ['r'], place: 'Reckoner' },
  ...(shop.value?.steps ?? []).map((s) => ({ letters: [...s.letters], place: s.label })),
  { letters: ['c'], place: 'Candidates' },
])
</script>

<template>
  <Dialog
    v-model:visible="visible"
    modal
    dismissable-mask
    header="Keys"
    :style="{ width: '920px', maxWidth: '96vw' }"
  >
    <div class="keys">
      <dl class="here">
        <div v-for="k in here" :key="k.key + k.says">
          <dt><KeyCap :k="k.key.length === 1 ? k.key.toUpperCase() : k.key" /></dt>
          <dd>{{ k.says }}</dd>
        </div>
      </dl>
      <dl>
        <div v-for="to in goes" :key="to.place">
          <dt><KeyCap k="g" /> <KeyCap v-for="letter in to.letters" :key="letter" :k="letter" /></dt>
          <dd>{{ to.place }}</dd>
        </div>
      </dl>
    </div>
  </Dialog>
</template>

<style scoped>
.keys {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 190px;
  gap: 28px;
}
dl {
  margin: 0;
  display: grid;
  gap: 8px;
  align-content: start;
}
dl > div {
  display: grid;
  grid-template-columns: 64px 1fr;
}
dl.here {
  display: block;
  columns: 2;
  column-gap: 24px;
}
dl.here > div {
  grid-template-columns: 40px 1fr;
  padding-bottom: 8px;
  break-inside: avoid;
}
dd {
  margin: 0;
}
</style>
