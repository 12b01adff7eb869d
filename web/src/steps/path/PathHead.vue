<script setup lang="ts">
/** The answer of the path in a line: what is lost up to the plenum, what a thought gains, and the builds to choose. */
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import type { JobView } from '@/frame/job'
import KeyCap from '@/frame/KeyCap.vue'

const props = defineProps<{
  job: JobView
  build: Schemas['BuildView']
  solution: Schemas['Solution'] | undefined
}>()
const emit = defineEmits<{ choose: [index: number] }>()
const about = computed(() =>
  [props.job.kind_title, props.job.customer && `for ${props.job.customer}`, props.job.flow_basis]
    .filter(Boolean)
    .join(' · '),
)
const gained = computed(() => {
  const [low, high] = [props.solution?.gained_low_percent, props.solution?.gained_high_percent]
  if (low == null || high == null) return ''
  const sign = (v: number) => `${v < 0 ? '−' : '+'}${Math.abs(v).toFixed(1)}`
  return sign(low) === sign(high) ? `${sign(high)} % air` : `${sign(low)} to ${sign(high)} % air`
})
</script>

<template>
  <div class="head">
    <div>
      <h1>{{ job.title }}</h1>
      <p class="narrow quiet">{{ about }}</p>
    </div>
    <div v-if="solution?.to_plenum" class="answer">
      <span class="big mono"
        ><small v-if="solution.at_least" class="narrow">at least </small>{{ solution.to_plenum.text }}
        <small>kPa</small></span
      >
      <span class="narrow quiet"
        >pressure drop to the plenum at {{ solution.rpm }} rpm = {{ solution.air_percent?.toFixed(1) }} % of
        the air</span
      >
      <span v-if="gained" class="gained mono">{{ gained }}</span>
    </div>
    <div class="builds" role="group" aria-label="Builds">
      <button
        v-for="(b, i) in job.builds"
        :key="b.id"
        type="button"
        :class="{ on: b.id === build.id }"
        @click="emit('choose', i)"
      >
        {{ b.name }}
      </button>
      <KeyCap v-if="job.builds.length > 1" k="V" />
    </div>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  justify-content: space-between;
  align-items: start;
  gap: 8px 20px;
  flex-wrap: wrap;
}
.answer {
  display: flex;
  align-items: baseline;
  gap: 8px;
}
.big {
  font-size: 24px;
}
.big small {
  font-size: 15px;
}
.gained {
  color: var(--cut);
  font-weight: 600;
}
.builds {
  display: flex;
  gap: 4px 14px;
  align-items: center;
  flex-wrap: wrap;
}
.builds button {
  padding: 3px 2px;
  border: 0;
  border-bottom: 3px solid transparent;
  background: none;
  cursor: pointer;
  font-weight: 600;
}
.builds .on {
  border-color: var(--dye);
  color: var(--dye);
}
</style>
