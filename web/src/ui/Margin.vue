<script setup lang="ts">
/** The margin of the notebook: what Elvarn concludes, each sentence with its grade, its figures to be followed. */
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import GradeMark from './GradeMark.vue'
import { useLit } from './lit'

type Sentence = Schemas['Sentence']
const props = defineProps<{ title: string; sentences: Sentence[] }>()
const lit = useLit()
const said = computed(() => props.sentences.filter((s) => s.tone !== 'next'))
const next = computed(() => props.sentences.filter((s) => s.tone === 'next'))

/** A figure and its unit stay on one line. */
const whole = (text: string) =>
  text.replace(/(?<=\d) (?=%|CFM|inH2O|m³|m\/s|k?Pa|kW|hp|N·m|lb|rpm|mm|°C)/g, '\u00a0')
const key = (s: Sentence) => s.pieces?.map((p) => p.text).join('')
</script>

<template>
  <aside class="margin" :aria-label="title">
    <h3 v-if="said.length">{{ title }}</h3>
    <p v-for="s in said" :key="key(s)" class="sentence" :class="s.tone">
      <GradeMark :grade="s.grade" />
      <span>
        <span v-if="s.tone === 'harm'" class="word">Caution: </span>
        <template v-for="(p, i) in s.pieces" :key="i">
          <span
            v-if="p.target"
            class="follow"
            tabindex="0"
            @mouseenter="lit = p.target ?? undefined"
            @mouseleave="lit = undefined"
            @focus="lit = p.target ?? undefined"
            @blur="lit = undefined"
            >{{ whole(p.text) }}</span><template v-else>{{ whole(p.text) }}</template>
        </template>
      </span>
    </p>
    <slot />
    <template v-if="next.length">
      <h3 class="next-title">Next</h3>
      <p v-for="s in next" :key="key(s)" class="sentence">
        <GradeMark grade="rule" says="advice" />
        <span>{{ key(s) }}</span>
      </p>
    </template>
    <slot name="end" />
    <p v-if="said[0]" class="in-sight" aria-hidden="true">{{ key(said[0]) }}</p>
  </aside>
</template>

<style scoped>
.margin {
  display: flex;
  flex-direction: column;
  gap: 13px;
  padding: 18px 22px 24px 20px;
  border-left: 1px solid var(--hair);
  overflow-y: auto;
}
.sentence {
  display: grid;
  grid-template-columns: 15px 1fr;
  line-height: 1.38;
}
.sentence.doubt {
  color: var(--doubt);
}
.sentence.harm {
  color: var(--harm);
}
.word {
  font-weight: 600;
}
.grade {
  margin-top: 7px;
}
.follow {
  border-bottom: 1.5px solid var(--dye);
  cursor: help;
}
.next-title {
  margin-top: 8px;
}
.in-sight {
  display: none;
}
@media (max-width: 1000px) {
  .in-sight {
    display: block;
    position: fixed;
    inset: auto 0 0;
    padding: 9px 20px;
    background: var(--sheet);
    border-top: 1px solid var(--hair);
    font-weight: 600;
  }
  .margin {
    padding-bottom: 64px;
    border-left: 0;
    border-top: 1px solid var(--hair);
    max-height: none;
  }
}
</style>
