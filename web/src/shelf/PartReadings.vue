<script setup lang="ts">
/** Everything that was read of a part: struck out with a reason, and where set-ups are unlike, which of them counts. */
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import { api, now, problemIn, told, type Problem, type Schemas } from '@/api/client'
import { useSession } from '@/frame/session'
import { vFocus } from '@/ui/focus'
import ProblemNote from '@/ui/ProblemNote.vue'
import { dayAndTime } from '@/ui/words'

const props = defineProps<{ sheet: Schemas['PartSheet'] }>()
const emit = defineEmits<{ changed: [] }>()
const { personId } = useSession()
const problem = ref<Problem>()
const striking = ref<string>()
const reason = ref('')
const FEW = 12
const all = ref(false)
const shown = computed(() => (all.value ? props.sheet.readings : props.sheet.readings.slice(0, FEW)))

async function attempt(what: () => Promise<unknown>): Promise<void> {
  try {
    await what()
    problem.value = undefined
    striking.value = undefined
    reason.value = ''
    emit('changed')
  } catch (error) {
    problem.value = problemIn(error, 'Try again.')
  }
}

const strike = (id: string) =>
  attempt(() =>
    told(
      api.PUT('/api/strikes/{reading_id}', {
        params: { path: { reading_id: id } },
        body: { person_id: personId.value, reason: reason.value, struck_at: now() },
      }),
    ),
  )

const count = (setup_id: string | null) =>
  attempt(() =>
    told(
      api.POST('/api/states/{state_id}/counting', {
        params: { path: { state_id: props.sheet.state_id } },
        body: { person_id: personId.value, setup_id },
      }),
    ),
  )
</script>

<template>
  <p v-if="sheet.unlike" class="narrow doubt">
    Flow was read in unlike set-ups; they are never averaged.
    <template v-if="sheet.counting_setup_id">
      You chose which count.
      <button type="button" class="way" @click="count(null)">Use the part alone, as set up last</button>
    </template>
    <template v-else>The part alone counts, as set up last. Choose another below.</template>
  </p>
  <ul v-if="shown.length" class="readings narrow">
    <li v-for="r in shown" :key="r.id" :class="{ struck: r.struck, idle: !r.counts }">
      <span class="what">{{ r.what }}</span>
      <span class="mono">{{ r.words }}</span>
      <span class="about">
        {{ [r.setup, r.person, dayAndTime(r.taken_at)].filter(Boolean).join(', ') }}
        <span v-if="r.struck" class="doubt">struck out: {{ r.struck.reason }}</span>
        <span v-else-if="r.marks.length" class="doubt">flagged: {{ r.marks.join(', ') }}</span>
        <span v-if="!r.struck && !r.counts"> does not count</span>
      </span>
      <span class="acts">
        <button
          v-if="!r.struck && !r.counts && r.setup_id"
          type="button"
          class="way"
          @click="count(r.setup_id)"
        >
          count these
        </button>
        <button v-if="!r.struck && striking !== r.id" type="button" class="way" @click="striking = r.id">
          strike out
        </button>
      </span>
      <form v-if="striking === r.id" @submit.prevent="strike(r.id)" @keydown.esc="striking = undefined">
        <InputText v-model="reason" v-focus size="small" placeholder="reason" aria-label="Reason" />
        <button type="submit" class="way">strike out {{ r.words }}</button>
      </form>
    </li>
  </ul>
  <button v-if="sheet.readings.length > FEW" type="button" class="way narrow" @click="all = !all">
    {{ all ? 'fewer' : `all ${sheet.readings.length} readings` }}
  </button>
  <ProblemNote v-if="problem" :problem="problem" />
</template>

<style scoped>
.readings {
  list-style: none;
  margin: 6px 0;
  padding: 0;
  font-size: 15px;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto auto;
  gap: 2px 10px;
  align-items: baseline;
  padding: 3px 0;
  border-bottom: 1px solid var(--faint);
}
.about {
  grid-row: 2;
  grid-column: 1 / -1;
}
li > form {
  grid-column: 1 / -1;
  display: flex;
  gap: 8px;
}
.about,
.idle .what,
.idle .mono {
  color: var(--quiet);
}
.struck .mono {
  text-decoration: line-through;
}
.acts {
  display: flex;
  gap: 8px;
}
</style>
