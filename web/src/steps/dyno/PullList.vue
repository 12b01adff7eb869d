<script setup lang="ts">
/** Pulls in the order in which they were made: build, air and what it makes of the figures, what changed, and a way to
 * say any of it anew. */
import { day } from '@/ui/words'
import type { Schemas } from '@/api/client'

type Pull = Schemas['PullView']
const props = defineProps<{ pulls: Pull[] }>()
const emit = defineEmits<{ edit: [pull: Pull]; strike: [pull: Pull] }>()

const begins = (i: number) => {
  const before = props.pulls[i - 1]
  return (
    props.pulls[i]?.session !== before?.session ||
    day(props.pulls[i]?.pulled_at ?? '') !== day(before?.pulled_at ?? '')
  )
}
const time = (at: string) => new Date(at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
const airOf = (p: Pull) => {
  if (p.air_temperature_c === null || p.air_pressure_kpa === null) return 'no weather'
  const humid = p.air_humidity_percent === null ? 'humidity ?' : `${Math.round(p.air_humidity_percent)} %`
  return `${p.air_temperature_c.toFixed(1)} °C ${p.air_pressure_kpa.toFixed(1)} kPa ${humid}`
}
</script>

<template>
  <ul class="pulls narrow">
    <template v-for="(p, i) in pulls" :key="p.id">
      <li v-if="begins(i)" class="day">
        {{ day(p.pulled_at) }} · {{ p.dyno }}
        <span v-if="p.declared['strap']">· strap-down {{ p.declared['strap'] }}</span>
      </li>
      <li :class="{ struck: p.struck }">
        <button
          type="button"
          class="plain-button row"
          :aria-label="`${p.build}, ${time(p.pulled_at)}: change`"
          @click="emit('edit', p)"
        >
          <span class="mono">{{ time(p.pulled_at) }}</span> <b>{{ p.build }}</b>
          <span class="quiet">{{ airOf(p) }}</span>
          <span v-if="p.factor !== null" class="mono quiet" title="factor from the file's figures"
            >×{{ p.factor.toFixed(3) }}</span
          >
        </button>
        <button v-if="!p.struck" type="button" class="plain-button link" @click="emit('strike', p)">
          strike out
        </button>
        <a :href="`/api/pulls/${p.id}.csv`" download class="link">CSV</a>
        <span v-if="p.struck" class="doubt">struck out: {{ p.struck.reason }}</span>
        <span v-else-if="p.changes.several" class="doubt changed"
          >{{ p.changes.items.length }} things at once: {{ p.changes.items.join('; ') }}</span
        >
        <span
          v-else-if="p.changes.items.length && !p.changes.items[0]?.startsWith('build')"
          class="quiet changed"
          >{{ p.changes.items[0] }}</span
        >
      </li>
    </template>
  </ul>
</template>

<style scoped>
.pulls {
  margin: 0;
  padding: 0;
  list-style: none;
  font-size: 15px;
}
.pulls li {
  display: flex;
  flex-wrap: wrap;
  gap: 0 12px;
  align-items: baseline;
  padding: 1px 0;
}
.day {
  border-top: 1px solid var(--hair);
  font-weight: 600;
}
.day:first-child {
  border: 0;
}
.row {
  display: inline-flex;
  flex-wrap: wrap;
  gap: 0 8px;
  align-items: baseline;
  text-align: left;
}
.struck b {
  text-decoration: line-through;
}
.link {
  text-decoration: underline;
  color: var(--quiet);
}
.changed {
  flex-basis: 100%;
  padding-left: 52px;
}
</style>
