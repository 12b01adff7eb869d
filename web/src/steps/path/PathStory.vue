<script setup lang="ts">
/** What follows at the chosen speed, and what was done to the job so far. */
import type { Schemas } from '@/api/client'
import type { JobView } from '@/frame/job'
import { day } from '@/ui/words'

defineProps<{ job: JobView; solution: Schemas['Solution'] | undefined }>()
</script>

<template>
  <div class="more">
    <div v-if="solution?.figures.length">
      <h3>At {{ solution.rpm }} rpm</h3>
      <dl class="figures">
        <div v-for="f in solution.figures" :key="f.name" :class="{ doubt: f.doubt }">
          <dt>{{ f.name }}</dt>
          <dd>
            <span class="mono">{{ f.text }}</span> <span class="quiet narrow">{{ f.note }}</span>
          </dd>
        </div>
      </dl>
    </div>
    <div>
      <h3>Job log</h3>
      <ol>
        <li v-for="(e, i) in job.story" :key="i">
          <span class="quiet narrow">{{ day(e.day) }}</span> {{ e.words }}
        </li>
      </ol>
    </div>
  </div>
</template>

<style scoped>
.more {
  display: grid;
  grid-template-columns: minmax(0, 1.6fr) minmax(0, 1fr);
  gap: 28px;
  padding-top: 8px;
}
.figures {
  margin: 0;
}
.figures > div {
  display: grid;
  grid-template-columns: 210px 1fr;
  padding: 2px 0;
}
.figures dt {
  font: 500 15px/1.5 var(--narrow);
  color: var(--quiet);
}
.figures .doubt dt,
.figures .doubt dd {
  color: var(--doubt);
}
.figures dd {
  margin: 0;
}
ol {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: 62px 1fr;
  padding: 2px 0;
}
@media (max-width: 1000px) {
  .more {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
