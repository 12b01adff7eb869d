<script setup lang="ts">
/** The answer of the path in a line: what is lost up to the plenum, what a thought gains, and the builds to choose. */
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import type { JobView } from '@/frame/job'
import { asTree } from './buildTree'
import KeyCap from '@/frame/KeyCap.vue'

const props = defineProps<{
  job: JobView
  build: Schemas['BuildView']
  solution: Schemas['Solution'] | undefined
}>()
const emit = defineEmits<{ choose: [index: number] }>()
const from = (id: string | null | undefined) => props.job.builds.find((b) => b.id === id)?.name ?? ''
const about = computed(() =>
  [props.job.kind_title, props.job.customer && `for ${props.job.customer}`, props.job.flow_basis]
    .filter(Boolean)
    .join(' · '),
)
/** Builds under what they were copied from, each with its place among all. */
const builds = computed(() => asTree(props.job.builds))
/** At the height of the strokes, where that is not the average. */
const fullFlow = computed(() => {
  const [peak, average] = [props.solution?.peak_to_plenum?.text, props.solution?.to_plenum?.text]
  return peak && peak !== average ? `; ${peak} kPa at full flow` : ''
})
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
        >pressure drop to {{ solution.ends_at }} at {{ solution.rpm }} rpm, average =
        {{ solution.air_percent?.toFixed(1) }} % of the air{{ fullFlow }}</span
      >
      <span v-if="gained" class="gained mono">{{ gained }}</span>
    </div>
    <div class="builds" role="group" aria-label="Builds">
      <button
        v-for="{ build: b, at, depth } in builds"
        :key="b.id"
        type="button"
        :class="{ on: b.id === build.id }"
        :title="depth ? `what if, from ${from(b.copied_from_id)}` : ''"
        @click="emit('choose', at)"
      >
        <span v-if="depth" class="branch" aria-hidden="true">{{ '›'.repeat(depth) }}</span>{{ b.name }}
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
.branch {
  margin-right: 4px;
  color: var(--quiet);
}
.builds .on {
  border-color: var(--dye);
  color: var(--dye);
}
</style>
