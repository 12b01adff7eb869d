<script setup lang="ts">
/** What comes off, what goes on, and between them what is done: the form of the line is the verb. */
import type { Schemas } from '@/api/client'
import { shapeOf } from './plan'

type Strand = Schemas['StrandView']
defineProps<{ strands: readonly Strand[]; chosen?: string; off: string; on: string }>()
const emit = defineEmits<{ choose: [strand: Strand] }>()
const MARKS: Record<string, string> = { done: '✓', question: '?', safety: '!', open: '', held: '' }
const mark = (s: Strand) =>
  s.state !== 'done' && s.done > 0 ? `${s.done}/${s.tasks.length}` : MARKS[s.state]
const says: Record<string, string> = {
  done: 'done',
  question: 'not decided',
  safety: 'safety, open',
  open: 'open',
  held: 'waits',
}
</script>

<template>
  <div class="strands">
    <div class="head">
      <p>
        <span class="quiet narrow">Comes off</span><b>{{ off }}</b>
      </p>
      <span />
      <p>
        <span class="quiet narrow">Goes on</span><b class="cut">{{ on }}</b>
      </p>
    </div>
    <button
      v-for="s in strands"
      :key="s.key"
      type="button"
      class="strand plain-button"
      :class="[s.state, { chosen: s.key === chosen }]"
      :aria-label="`${s.off || s.goes_on}: ${s.verb}, ${says[s.state]}`"
      @click="emit('choose', s)"
    >
      <span class="off"
        ><i v-if="s.code" class="code mono">{{ s.code }}</i
        >{{ s.off }}</span
      >
      <span class="line" :class="shapeOf(s.verb)">
        <b class="narrow">{{ s.verb }}</b>
        <svg viewBox="0 0 200 14" preserveAspectRatio="none" aria-hidden="true">
          <path v-if="shapeOf(s.verb) === 'straight'" d="M0,7H194" />
          <path v-else-if="shapeOf(s.verb) === 'kink'" d="M0,7H16l6,-6l10,12l6,-6H194" />
          <template v-else-if="shapeOf(s.verb) === 'bar'">
            <path d="M0,7H50M50,0V14" />
            <path class="dots" d="M62,7H194" />
          </template>
          <template v-else-if="shapeOf(s.verb) === 'gap'">
            <path class="dots quiet-line" d="M0,7H30" />
            <circle cx="116" cy="7" r="4" />
            <path d="M120,7H194" />
          </template>
          <path v-else class="dots" d="M0,7H194" />
          <path class="head-of" d="M192,3L200,7L192,11Z" />
        </svg>
        <small class="narrow">{{ s.how }}</small>
      </span>
      <span class="on">{{ s.goes_on }}</span>
      <span class="tick mono">{{ mark(s) }}</span>
    </button>
  </div>
</template>

<style scoped>
.strands {
  min-width: 0;
}
.head,
.strand {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(120px, 170px) minmax(0, 1fr) 40px;
  gap: 10px;
  align-items: center;
}
.head {
  padding-bottom: 6px;
}
.head p {
  display: grid;
  line-height: 1.2;
}
.head b {
  font-size: 16.5px;
  font-weight: 600;
}
.cut {
  color: var(--cut);
}
.strand {
  width: 100%;
  min-height: 40px;
  padding: 2px 4px 2px 6px;
  border-top: 1px solid var(--hair);
  border-left: 4px solid transparent;
  text-align: left;
  line-height: 1.2;
}
.strand.chosen {
  background: var(--dye-wash);
  border-left-color: var(--dye);
}
.strand.done {
  color: var(--quiet);
}
.off,
.on {
  font-size: 15.5px;
}
.off:has(.code) {
  display: grid;
  grid-template-columns: 30px minmax(0, 1fr);
  align-items: baseline;
}
.code {
  font-style: normal;
  font-size: 13px;
  color: var(--quiet);
}
.line {
  display: grid;
  justify-items: center;
  color: var(--ink);
}
.line b {
  font-weight: 600;
  font-size: 14px;
  line-height: 1.05;
}
.line small {
  font-size: 12.5px;
  line-height: 1.05;
  color: var(--quiet);
  text-align: center;
}
.line.kink,
.line.asked {
  color: var(--doubt);
}
.line.gap {
  color: var(--cut);
}
.done .line {
  color: var(--quiet);
}
svg {
  width: 100%;
  height: 14px;
}
path,
circle {
  fill: none;
  stroke: currentColor;
  stroke-width: 1.6;
  vector-effect: non-scaling-stroke;
}
.head-of {
  fill: currentColor;
  stroke: none;
}
.dots {
  stroke-dasharray: 3 4;
}
.quiet-line {
  stroke: var(--quiet);
}
.tick {
  display: grid;
  place-items: center;
  width: 34px;
  height: 32px;
  border: 1.4px solid var(--quiet);
  border-radius: 2px;
  font-weight: 700;
  font-size: 13px;
}
.done .tick {
  border-color: var(--hair);
  font-size: 19px;
}
.held .tick {
  border-style: dashed;
  border-color: var(--hair);
}
.safety .tick {
  border-color: var(--harm);
  color: var(--harm);
  background: var(--harm-wash);
}
.question .tick {
  border-color: var(--doubt);
  color: var(--doubt);
  background: var(--doubt-wash);
}
</style>
