<script setup lang="ts">
/** The bolt that is next: how tight in this round, which round it is, where it sits, and the way to say that it is. */
import Button from 'primevue/button'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import KeyCap from '@/frame/KeyCap.vue'
import FlangePlate from './FlangePlate.vue'

const props = defineProps<{ map: Schemas['BoltMapView']; slim?: boolean }>()
const emit = defineEmits<{ tight: []; back: []; pick: [bolt: number] }>()
const round = computed(() => (props.map.round == null ? undefined : props.map.rounds[props.map.round]))
const bolt = computed(() => (props.map.bolt == null ? undefined : props.map.bolts[props.map.bolt]))
const any = computed(() => props.map.rounds.some((r) => r.ticked.length))
const share = (n: number) => {
  const one = props.map.rounds[n]
  return one ? one.ticked.length / one.order.length : 0
}
const heights = [0.22, 0.36, 0.62, 1, 1]
</script>

<template>
  <div class="bolt-now" :class="{ slim }">
    <p class="over">
      <span class="quiet narrow">{{ map.name }}</span>
      <span v-if="round" class="narrow stage"
        >round {{ (map.round ?? 0) + 1 }} of {{ map.rounds.length }}: {{ round.name }}</span
      >
    </p>
    <div class="now">
      <div>
        <h2>{{ bolt ? `Bolt ${bolt.number}` : 'All tight' }}</h2>
        <p class="figure" aria-live="polite">
          <span class="torque mono" :class="{ computed: map.computed }">{{
            round ? (round.torque?.text ?? 'hand') : map.torque.text
          }}</span>
          <span>
            <b>{{ round && !round.torque ? 'snug, no tool' : map.torque.unit }}</b>
            <template v-if="round?.torque && round.torque.text !== map.torque.text"
              >of {{ map.torque.text }}</template
            >
            <template v-if="map.computed"> computed</template>
          </span>
        </p>
        <p v-if="bolt?.tool" class="quiet">with {{ bolt.tool }}</p>
      </div>
      <div class="rounds" aria-label="Rounds">
        <span v-for="(r, n) in map.rounds" :key="r.name" :class="{ on: n === map.round }">
          <i :style="{ height: `${56 * (heights[n] ?? 1)}px` }"
            ><i :style="{ height: `${100 * share(n)}%` }"
          /></i>
          {{ r.name }}
        </span>
      </div>
    </div>
    <FlangePlate
      :bolts="map.bolts"
      :ticked="round?.ticked ?? map.bolts.map((_, n) => n)"
      :next="map.bolt"
      @pick="(n) => emit('pick', n)"
    />
    <p>
      {{ map.words }}<span v-for="f in map.flags" :key="f" class="doubt"> · {{ f }}</span>
    </p>
    <p class="doing">
      <Button v-if="bolt" class="main" size="large" @click="emit('tight')"
        >{{ bolt.number }} is tight <KeyCap k="Space"
      /></Button>
      <Button v-if="any" outlined @click="emit('back')">Take back <KeyCap k="U" /></Button>
    </p>
  </div>
</template>

<style scoped>
.bolt-now {
  display: grid;
  gap: 10px;
}
.over,
.now {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 4px 24px;
  align-items: flex-end;
}
.stage {
  font-weight: 600;
  color: var(--cut);
}
h2 {
  font: 600 30px/1.1 var(--sans);
}
.figure {
  display: flex;
  gap: 12px;
  align-items: flex-end;
  color: var(--cut);
  font-size: 20px;
  line-height: 1.2;
}
.figure b {
  display: block;
  font-size: 22px;
}
.torque {
  font-weight: 700;
  font-size: 84px;
  line-height: 0.9;
  letter-spacing: -0.04em;
}
.torque.computed {
  font-style: italic;
}
.rounds {
  display: flex;
  gap: 14px;
  align-items: flex-end;
}
.rounds > span {
  display: grid;
  justify-items: center;
  gap: 4px;
  font: 500 13px/1.2 var(--narrow);
  color: var(--quiet);
}
.rounds > .on {
  color: var(--cut);
  font-weight: 600;
}
.rounds i {
  display: flex;
  align-items: flex-end;
  width: 30px;
  border: 1px solid var(--hair);
}
.rounds i i {
  width: 100%;
  border: 0;
  background: var(--cut);
}
.doing {
  display: flex;
  gap: 10px;
}
.main {
  flex: 1;
  min-height: 62px;
}
.slim h2 {
  font-size: 19px;
}
.slim .torque {
  font-size: 62px;
}
.slim .now {
  flex-wrap: nowrap;
  gap: 10px;
}
.slim .figure > span {
  white-space: nowrap;
}
.slim .rounds {
  gap: 6px;
}
.slim .rounds > span {
  font-size: 12px;
  text-align: center;
}
.slim .rounds i {
  width: 22px;
}
</style>
