<script setup lang="ts">
/** The runner ladder: a rung for each runner, before open, after filled, the gain beside, the allowed spread as a band. */
import { scaleLinear } from 'd3-scale'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { useLit } from '@/ui/lit'
import { useWidth } from '@/ui/useWidth'

type Rung = Schemas['Rung']

const props = defineProps<{
  rungs: Rung[]
  mean: Schemas['MeanView']
  banks: Schemas['BankView'][]
  band: number[] | null | undefined
  unit: string
  /** The unit, and at what depression it is stated. */
  basis: string
  active: number
  /** The runner that stands for the others. */
  reference: number | null
  /** What is being typed for the active rung, where it is a figure in the ladder's unit. */
  live: number | undefined
  /** What waits to be sent or to be answered, by cylinder. */
  waiting: Map<number, string>
  beforeWords: string
  afterWords: string
}>()
const emit = defineEmits<{ choose: [cylinder: number] }>()
const lit = useLit()
const track = ref<HTMLElement>()
const width = useWidth(track, 400)

const figures = computed(() =>
  props.rungs.flatMap((r) => [r.before.mean?.value, r.after.mean?.value]).filter((v) => v != null),
)
const span = computed((): [number, number] => {
  const all = [...figures.value, ...(props.band ?? []), ...(props.live === undefined ? [] : [props.live])]
  if (!all.length) return [0, 1]
  const [low, high] = [Math.min(...all), Math.max(...all)]
  const room = Math.max((high - low) * 0.2, high * 0.02)
  return [low - room, high + room]
})
const x = computed(() => scaleLinear(span.value, [56, Math.max(120, width.value - 56)]))
const ticks = computed(() =>
  figures.value.length ? x.value.ticks(Math.max(2, Math.floor(width.value / 95))) : [],
)
/** Eight runners stand as high as five. */
const height = computed(() => `${Math.max(36, Math.min(76, Math.floor(390 / props.rungs.length)))}px`)
const bandBox = computed(() => {
  if (!props.band) return undefined
  const [a, b] = [x.value(props.band[0] ?? 0), x.value(props.band[1] ?? 0)]
  return { left: `${a}px`, width: `${b - a}px` }
})

function isLit(r: Rung): boolean {
  return lit.value === `rung-${r.cylinder}` || lit.value === 'spread'
}
const side = (value: number, other: number | undefined) =>
  other === undefined || value <= other ? 'left' : 'right'
</script>

<template>
  <div class="ladder" role="list" :style="{ '--rung': height }" :aria-label="`Runners, ${unit}`">
    <div ref="track" class="measure" aria-hidden="true" />
    <div v-if="bandBox" class="band-row" aria-hidden="true">
      <span :style="bandBox" class="band-word"><span>balanced: within 3 %</span></span>
    </div>
    <button
      v-for="r in rungs"
      :key="r.cylinder"
      type="button"
      tabindex="-1"
      role="listitem"
      class="rung"
      :class="{ active: r.cylinder === active, lit: isLit(r) }"
      :data-rung="r.cylinder"
      @click="emit('choose', r.cylinder)"
    >
      <span class="number">
        {{ r.cylinder }}<small v-if="r.cylinder === reference">reference</small
        ><small v-else-if="r.bank">bank {{ r.bank }}</small>
      </span>
      <span class="track">
        <span v-for="t in ticks" :key="t" class="tick" :style="{ left: `${x(t)}px` }" />
        <span v-if="bandBox" class="band" :style="bandBox" />
        <template v-if="r.before.mean && r.after.mean && !r.unlike">
          <span
            class="rise"
            :style="{
              left: `${Math.min(x(r.before.mean.value), x(r.after.mean.value))}px`,
              width: `${Math.abs(x(r.after.mean.value) - x(r.before.mean.value))}px`,
            }"
          />
        </template>
        <template v-if="r.before.mean">
          <span class="mark open" :style="{ left: `${x(r.before.mean.value)}px` }" />
          <span
            class="figure"
            :class="side(r.before.mean.value, r.after.mean?.value)"
            :style="{ left: `${x(r.before.mean.value)}px` }"
          >
            {{ r.before.mean.text }}
          </span>
        </template>
        <template v-if="r.after.mean">
          <span class="mark filled" :style="{ left: `${x(r.after.mean.value)}px` }" />
          <span
            class="figure after"
            :class="r.before.mean && r.after.mean.value < r.before.mean.value ? 'left' : 'right'"
            :style="{ left: `${x(r.after.mean.value)}px` }"
          >
            {{ r.after.mean.text }}
          </span>
        </template>
        <span
          v-if="r.cylinder === active && live !== undefined"
          class="mark live"
          :style="{ left: `${x(live)}px` }"
        />
        <span v-if="!r.before.mean && !r.after.mean && !waiting.get(r.cylinder)" class="nothing"
          >no reading</span
        >
      </span>
      <span class="gain">
        <template v-if="waiting.get(r.cylinder)"
          ><em class="doubt">{{ waiting.get(r.cylinder) }}</em></template
        >
        <template v-else-if="r.gain">
          <span class="with-width"
            ><span v-if="r.behind" class="doubt behind">low</span> <b class="mono">{{ r.gain.gain.text }}</b>
            <span class="mono quiet">±{{ r.gain.half_width.text }}</span></span
          >
          <small>{{ r.gain.percent }} · {{ r.gain.words }}</small>
        </template>
        <small v-else-if="r.unlike" class="doubt">{{ r.unlike }}</small>
        <small v-else-if="r.behind" class="doubt behind">low</small>
      </span>
    </button>
    <div class="axis" aria-hidden="true">
      <span v-for="t in ticks" :key="t" class="mono" :style="{ left: `${x(t)}px` }">{{ t }}</span>
      <span class="unit">{{ basis }}</span>
    </div>
    <div class="sum" :class="{ lit: lit === 'gain-mean' }">
      <span class="legend">
        <span><i class="mark open still" /> {{ beforeWords }}</span>
        <span v-if="afterWords"><i class="mark filled still" /> {{ afterWords }}</span>
      </span>
      <span v-if="mean.gain" class="mean">
        <span
          ><span class="quiet">average</span> <b class="mono">{{ mean.gain.gain.text }}</b> {{ unit }}</span
        >
        <span class="quiet">
          {{ mean.gain.percent }} · ±{{ mean.gain.half_width.text }} {{ unit }} · {{ mean.gain.words }}
        </span>
      </span>
      <span v-else-if="mean.unlike" class="mean doubt">{{ mean.unlike }}</span>
      <span v-else-if="mean.before" class="mean">
        <span
          ><span class="quiet">average</span> <b class="mono">{{ mean.before.text }}</b> {{ unit }}</span
        >
        <span v-if="mean.spread_before" class="quiet">spread {{ mean.spread_before }}</span>
      </span>
    </div>
    <p v-for="b in banks" :key="b.bank" class="bank">
      <span class="quiet">bank {{ b.bank }}, average</span>
      <span class="mono">{{ [b.before?.text, b.after?.text].filter(Boolean).join(' → ') }}</span>
      <template v-if="b.gain">
        <b class="mono">{{ b.gain.gain.text }}</b> {{ unit }}
        <span class="quiet">{{ b.gain.percent }} · ±{{ b.gain.half_width.text }} · {{ b.gain.words }}</span>
      </template>
    </p>
  </div>
</template>

<style scoped>
.with-width {
  white-space: nowrap;
}
.behind {
  font: 600 13px var(--narrow);
}
.with-width .quiet {
  margin-left: 6px;
  font-size: 14px;
}
.bank {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  justify-content: flex-end;
  font-size: 15px;
}
.ladder {
  display: grid;
  grid-auto-rows: minmax(0, auto);
  align-content: start;
  position: relative;
}
.measure {
  margin: 0 152px 0 58px;
  height: 0;
}
.band-row {
  position: relative;
  height: 19px;
  margin: 0 152px 0 58px;
}
.band-word {
  position: absolute;
  display: flex;
  justify-content: center;
  font: 500 14px var(--narrow);
  color: var(--cut);
  white-space: nowrap;
}
.band-word > span {
  flex: none;
}
.rung {
  display: grid;
  grid-template-columns: 58px minmax(0, 1fr) 152px;
  align-items: center;
  height: var(--rung, 72px);
  padding: 0;
  border: 0;
  border-left: 4px solid transparent;
  margin-left: -4px;
  background: none;
  cursor: pointer;
  text-align: left;
}
.rung.active {
  background: var(--dye-wash);
  border-color: var(--dye);
}
.rung.lit {
  background: var(--cut-wash);
}
.number {
  padding-left: 18px;
  font: 600 26px var(--sans);
}
.number small {
  display: block;
  font: 500 12px var(--narrow);
  color: var(--quiet);
}
.active .number {
  color: var(--dye);
}
.track {
  position: relative;
  height: 100%;
}
.tick {
  position: absolute;
  top: 0;
  bottom: 0;
  border-left: 1px solid var(--faint);
}
.band {
  position: absolute;
  top: 0;
  bottom: 0;
  background: var(--cut-wash);
}
.rise {
  position: absolute;
  top: calc(50% - 1.5px);
  height: 3px;
  background: var(--cut);
}
.mark {
  position: absolute;
  top: calc(50% - 8px);
  width: 16px;
  height: 16px;
  margin-left: -8px;
  border: 2px solid var(--ink);
  border-radius: 50%;
  background: var(--ground);
}
.mark.filled {
  border-color: var(--cut);
  background: var(--cut);
}
.mark.live {
  border: 2px solid var(--dye);
  border-radius: 0;
  transform: rotate(45deg) scale(0.8);
}
.mark.still {
  position: static;
  display: inline-block;
  width: 13px;
  height: 13px;
  margin: 0 3px 0 0;
  vertical-align: -1px;
}
.figure {
  position: absolute;
  top: calc(50% - 11px);
  font: 500 15px/22px var(--mono);
}
.figure.left {
  transform: translateX(calc(-100% - 13px));
}
.figure.right {
  transform: translateX(13px);
}
.figure.after {
  font-weight: 600;
  color: var(--cut);
}
.nothing {
  position: absolute;
  left: 56px;
  top: calc(50% - 11px);
  color: var(--quiet);
  font: 500 15px/22px var(--narrow);
}
.gain {
  display: grid;
  justify-items: end;
  padding-right: 8px;
  line-height: 1.15;
  text-align: right;
}
.gain b {
  font-size: 20px;
  font-weight: 600;
}
.gain small {
  font: 500 13px/1.15 var(--narrow);
  color: var(--quiet);
}
.gain .doubt {
  color: var(--doubt);
  font-weight: 600;
}
.axis {
  position: relative;
  height: 24px;
  margin: 0 152px 0 58px;
  color: var(--quiet);
  font-size: 14px;
}
.axis span {
  position: absolute;
  transform: translateX(-50%);
}
.axis .unit {
  right: -144px;
  transform: none;
  font: 500 14px var(--narrow);
}
.sum {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 8px 8px 8px 18px;
  border-top: 1px solid var(--hair);
  font: 500 14px/1.4 var(--narrow);
}
.sum b {
  font-size: 19px;
}
.sum.lit {
  background: var(--cut-wash);
}
.legend,
.mean {
  display: grid;
  align-content: start;
}
.mean {
  justify-items: end;
}
</style>
