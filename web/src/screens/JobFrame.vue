<script setup lang="ts">
/** The frame of a job's screens: air path across the top, step rail under it, the step's own screen below. */
import { computed, onMounted, ref, watch } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import AirPath from '@/airpath/AirPath.vue'
import { Refused } from '@/api/client'
import { useOutbox } from '@/api/outbox'
import { useSession } from '@/shared/session'
import ShopMark from '@/shared/ShopMark.vue'
import { provideJob } from './job'

const props = defineProps<{ jobId: string }>()
const { job, reload } = provideJob(props.jobId)
const { units } = useSession()
const { reachable, waiting } = useOutbox()
const route = useRoute()
const failure = ref('')
/** Candidates are chosen for the path, and tests are flowed on the bench: they belong to those steps. */
const STEP_OF: Record<string, string> = { candidates: 'path', tests: 'bench' }
const here = computed(() => {
  const word = route.path.split('/')[3] ?? ''
  return STEP_OF[word] ?? word
})
const build = computed(() => job.value?.builds.at(-1))
const engine = computed(() => job.value?.engine)
const subtitle = computed(() =>
  [engine.value?.name ?? job.value?.kind_title, build.value?.name].filter(Boolean).join(' · '),
)

async function load(): Promise<void> {
  try {
    await reload()
    document.title = `${job.value?.title ?? ''} · Elvarn`
  } catch (error) {
    failure.value = error instanceof Refused ? error.problem.detail : 'Elvarn does not answer. Is it running?'
  }
}
onMounted(load)
watch(units, load)
</script>

<template>
  <div v-if="!failure" class="frame">
    <header v-if="!route.path.endsWith('/path')" class="band">
      <RouterLink :to="`/jobs/${jobId}/path`" class="picture" aria-label="Air path, large">
        <AirPath v-if="build" :tree="build.path" :height="128" label="Air path" />
      </RouterLink>
      <div v-if="job" class="name">
        <h1>{{ job.title }}</h1>
        <p class="narrow quiet">{{ subtitle }}</p>
        <p v-if="job.customer" class="narrow quiet">for {{ job.customer }}</p>
        <p class="narrow quiet">{{ job.flow_basis }}</p>
      </div>
    </header>
    <nav class="rail" aria-label="Steps of this job">
      <RouterLink to="/" class="home" aria-label="Shop board">◂ Board</RouterLink>
      <RouterLink
        v-for="s in job?.rail"
        :key="s.word"
        :to="`/jobs/${jobId}/${s.word}`"
        class="step"
        :class="{ on: s.word === here, current: s.state === 'here' }"
      >
        {{ s.label }} <small>{{ s.status }}</small>
      </RouterLink>
      <span class="space" />
      <span v-if="!reachable" class="doubt waiting" role="status">no connection · {{ waiting }} waiting</span>
      <ShopMark />
    </nav>
    <RouterView />
  </div>
  <div v-else class="blank">
    <p class="harm" role="alert">{{ failure }} <RouterLink to="/">To the shop board</RouterLink></p>
  </div>
</template>

<style scoped>
.frame {
  display: flex;
  flex-direction: column;
  height: 100%;
}
.frame > :deep(:last-child) {
  flex: 1;
  min-height: 0;
}
.band {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 20px;
  padding: 8px 24px 4px 8px;
  min-height: 140px;
}
.picture {
  color: inherit;
  min-width: 0;
}
.name {
  text-align: right;
  max-width: 250px;
  padding-top: 4px;
}
.rail {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 22px;
  padding: 0 24px;
  background: var(--sheet);
  border-block: 1px solid var(--hair);
  min-height: 42px;
}
.rail a {
  text-decoration: none;
  color: inherit;
}
.home {
  font: 500 15px var(--narrow);
  color: var(--quiet) !important;
}
.step {
  font-weight: 600;
  padding: 8px 0;
  border-bottom: 3px solid transparent;
  white-space: nowrap;
}
.step small {
  font: 500 14px var(--narrow);
  color: var(--quiet);
}
.step.current small::before {
  content: '▸ ';
  color: var(--dye);
}
.step.on {
  color: var(--dye);
  border-color: var(--dye);
}
.space {
  flex: 1;
}
.waiting {
  font: 600 15px var(--narrow);
}
.blank {
  padding: 40px;
}
@media (max-width: 1000px) {
  .frame {
    height: auto;
    min-height: 100%;
  }
  .rail {
    gap: 2px 16px;
    padding: 0 14px;
  }
}
@media print {
  .band,
  .rail {
    display: none;
  }
}
</style>
