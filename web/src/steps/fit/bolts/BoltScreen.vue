<script setup lang="ts">
/** Bolts of a flange: which is next, how tight in this round, and what holds. */
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { useJob } from '@/frame/job'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'
import CautionList from '@/ui/CautionList.vue'
import KeyRow from '@/ui/KeyRow.vue'
import Margin from '@/ui/Margin.vue'
import NotShown from '@/ui/NotShown.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import Screen from '@/ui/Screen.vue'
import BoltForm from './BoltForm.vue'
import BoltNow from './BoltNow.vue'
import { useBolts } from './useBolts'

const { id: jobId, reload } = useJob()
const router = useRouter()
const { sheet, load, failure, problem, tick: tickOf, answer } = useBolts()
const at = ref(0)
const open = ref<'new' | 'edit'>()
const map = computed(() => sheet.value?.maps[at.value])
const any = computed(() => map.value?.rounds.some((r) => r.ticked.length) ?? false)

const tick = (patch: Record<string, unknown> = {}) => map.value && void tickOf(map.value, patch)
function tight(): void {
  if (open.value || map.value?.bolt == null) return
  tick()
}
const back = () => any.value && tick({ back: true })
async function saved(): Promise<void> {
  const fresh = open.value === 'new'
  open.value = undefined
  await Promise.all([load(), reload()])
  if (fresh) at.value = Math.max(0, (sheet.value?.maps.length ?? 1) - 1)
}
const other = () => (at.value = (at.value + 1) % Math.max(1, sheet.value?.maps.length ?? 1))

useKeys([
  { key: ' ', says: 'this bolt is tight', run: tight },
  { key: 'Enter', says: 'this bolt is tight', run: tight },
  { key: 'u', says: 'take the last tick back', run: back },
  { key: 'n', says: 'map another flange', run: () => (open.value = 'new') },
  { key: 'e', says: 'say these bolts anew', run: () => map.value && (open.value = 'edit') },
  { key: 'o', says: 'other flange', run: other },
  { key: 'Escape', says: 'back to fitting', run: () => void router.push(`/jobs/${jobId}/fit`) },
])
</script>

<template>
  <Screen v-if="sheet">
    <BoltForm
      v-if="open"
      :key="open"
      :job-id="jobId"
      :sheet="sheet"
      :map="open === 'edit' ? map : undefined"
      @saved="saved"
      @leave="open = undefined"
    />
    <div v-else-if="!map" class="none">
      <h2>No flange mapped yet</h2>
      <p>
        Tap where its bolts sit and say what they are: Elvarn gives the order, the torque of each round, and
        says what would strip or bottom.
      </p>
      <button type="button" class="way strong" @click="open = 'new'">Map a flange <KeyCap k="N" /></button>
      <KeyRow>
        <router-link :to="`/jobs/${jobId}/fit`"><KeyCap k="Esc" /> fitting</router-link>
      </KeyRow>
    </div>
    <div v-else class="bolts">
      <BoltNow :map="map" @tight="tight" @back="back" @pick="(n) => tick({ bolt: n })" />
      <ProblemNote v-if="problem" :problem="problem" @choose="answer" />
      <KeyRow>
        <button type="button" @click="open = 'edit'"><KeyCap k="E" /> say these bolts anew</button>
        <button type="button" @click="open = 'new'"><KeyCap k="N" /> another flange</button>
        <button v-if="sheet.maps.length > 1" type="button" @click="other">
          <KeyCap k="O" /> other flange
        </button>
        <router-link :to="`/jobs/${jobId}/fit`"><KeyCap k="Esc" /> fitting</router-link>
      </KeyRow>
    </div>
    <template #margin>
      <Margin title="What holds" :sentences="map?.margin ?? []">
        <template #end>
          <CautionList :cautions="sheet.cautions" />
        </template>
      </Margin>
    </template>
  </Screen>
  <NotShown v-else :why="failure" />
</template>

<style scoped>
.bolts {
  display: grid;
  gap: 10px;
  max-width: 860px;
}
.none {
  display: grid;
  gap: 14px;
  max-width: 560px;
  padding: 40px 0;
}
.strong {
  min-height: 52px;
  padding: 10px 18px;
  background: var(--dye);
  color: var(--on-dye);
  font-weight: 600;
  justify-self: start;
}
</style>
