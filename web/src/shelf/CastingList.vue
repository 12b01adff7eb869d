<script setup lang="ts">
/** Castings by maker and number, with what each job learned of them. */
import { RouterLink } from 'vue-router'
import type { Schemas } from '@/api/client'

defineProps<{ castings: Schemas['Casting'][] }>()
</script>

<template>
  <section v-if="castings.length" class="castings" aria-label="Castings">
    <h2>Castings</h2>
    <div v-for="c in castings" :key="c.maker + c.number" class="casting">
      <p>
        <RouterLink :to="`/parts/${c.part_id}/history`" class="strong">{{ c.number }}</RouterLink>
        <span class="narrow quiet about">{{ c.maker }} {{ c.name }} · {{ c.words }}</span>
      </p>
      <ul>
        <li v-for="(j, i) in c.jobs" :key="i">
          <RouterLink v-if="j.job_id" :to="`/jobs/${j.job_id}/bench`">{{ j.title }}</RouterLink><span
            v-else
            >{{ j.title }}</span
          >
          <span class="mono">
            {{
              j.before ? `${j.before.text} → ${j.after ? j.after.text : '…'} ${j.before.unit}` : 'not flowed'
            }}
          </span>
          <span v-if="j.gain_percent != null" class="mono gain">+{{ j.gain_percent.toFixed(1) }} %</span>
          <span v-if="j.stage != null" class="narrow quiet">stage {{ j.stage }}</span>
          <span v-if="j.note" class="narrow">{{ j.note }}</span>
        </li>
      </ul>
    </div>
  </section>
</template>

<style scoped>
h2 {
  padding: 12px 0 2px;
}
.about {
  margin-left: 8px;
}
.strong {
  font-weight: 600;
}
ul {
  list-style: none;
  margin: 0 0 8px;
  padding: 0;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
  align-items: baseline;
  padding: 1px 0;
}
.casting {
  padding: 4px 0;
  border-top: 1px solid var(--hair);
}
.gain {
  color: var(--cut);
}
</style>
