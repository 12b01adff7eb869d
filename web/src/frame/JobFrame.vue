<script setup lang="ts">
/** The frame of a job's screens: the step rail at the top of each, the air path slim under it, the screen below. */
import { computed, watch } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import AirPath from '@/airpath/AirPath.vue'
import MidCut from '@/ui/MidCut.vue'
import NotShown from '@/ui/NotShown.vue'
import Boundary from './Boundary.vue'
import { provideJob } from './job'
import ShopMark from './ShopMark.vue'

const props = defineProps<{ jobId: string }>()
const { job, failure } = provideJob(props.jobId)
const route = useRoute()
const here = computed(() => route.meta.step)
/** Screens with a large path of their own, and the job's name beside it. */
const drawsItself = computed(() => /\/(path|checkin)$/.test(route.path))
const build = computed(() => job.value?.builds.at(-1))
const engine = computed(() => job.value?.engine)
const joined = (...words: (string | null | undefined)[]) => words.filter(Boolean).join(' · ')
const what = computed(() => joined(engine.value?.name ?? job.value?.kind_title, build.value?.name))
const whose = computed(() =>
  joined(job.value?.customer && `for ${job.value.customer}`, job.value?.flow_basis),
)
watch(job, (found) => (document.title = `${found?.title ?? ''} · Elvarn`))
</script>

<template>
  <div v-if="job || !failure" class="frame">
    <nav class="rail" aria-label="Steps of this job">
      <RouterLink to="/" class="home" aria-label="Jobs board">◂ Board</RouterLink>
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
      <ShopMark />
    </nav>
    <header v-if="!drawsItself" class="band">
      <RouterLink :to="`/jobs/${jobId}/path`" class="picture" aria-label="Air path, large">
        <AirPath v-if="build" :tree="build.path" :height="76" label="Air path" />
      </RouterLink>
      <div v-if="job" class="name">
        <h1><MidCut :words="job.title" /></h1>
        <p class="narrow quiet">{{ what }}</p>
        <p class="narrow quiet">{{ whose }}</p>
      </div>
    </header>
    <Boundary><RouterView /></Boundary>
  </div>
  <NotShown v-else :why="failure" />
</template>

<style scoped>
.frame {
  display: flex;
  flex-direction: column;
  height: 100%;
}
.frame > :deep(:last-child:not(.band)) {
  flex: 1;
  min-height: 0;
}
.band {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  align-items: center;
  gap: 20px;
  padding: 0 24px 0 8px;
  height: 76px;
  border-bottom: 1px solid var(--hair);
}
.picture {
  display: block;
  color: inherit;
  text-decoration: none;
  min-width: 0;
}
.name {
  text-align: right;
  max-width: 330px;
  line-height: 1.2;
}
.name > * {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.name h1 {
  display: flex;
  justify-content: end;
  font-size: 19px;
}
.rail {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 17px;
  padding: 0 24px;
  background: var(--sheet);
  border-bottom: 1px solid var(--hair);
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
