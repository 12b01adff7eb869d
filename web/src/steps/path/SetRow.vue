<script setup lang="ts">
/** One set of parts: what stands at each place of the path, what it gains, costs and waits for. */
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { day } from '@/ui/words'
import { spanText, SUITS } from './criteria'

const props = defineProps<{
  set: Schemas['SetView']
  places: Schemas['PlaceNow'][]
  rank: number
  on: boolean
  currency: string
}>()
const at = computed(() => new Map(props.set.parts.map((p) => [p.kind, p])))
const part = (kind: string): string => {
  const chosen = at.value.get(kind)
  if (!chosen) return 'stays'
  return chosen.pieces > 1 ? `${chosen.name} × ${chosen.pieces}` : chosen.name
}
const span = computed(() => spanText(props.set.gain_low_percent, props.set.gain_high_percent))
const asIs = computed(() => !props.set.parts.length)
const unpriced = computed(() => props.set.cost == null)
</script>

<template>
  <li class="set" :class="{ on }" :aria-current="on">
    <span class="rank mono">{{ asIs ? '=' : rank }}</span>
    <span v-if="asIs" class="as-is">as it is</span>
    <ol v-else class="chain" :aria-label="set.name">
      <li v-for="p in places" :key="p.kind" :class="{ changed: at.has(p.kind) }">
        <span class="narrow quiet">{{ p.kind }}</span>
        <span class="part">{{ part(p.kind) }}</span>
      </li>
    </ol>
    <span class="gain mono">{{ asIs ? '' : span }}</span>
    <dl>
      <div>
        <dt>price and work</dt>
        <dd class="mono" :class="{ doubt: set.over_budget || unpriced }">
          {{ unpriced ? 'no price' : `${set.cost!.toFixed(0)} ${currency}` }}
        </dd>
      </div>
      <div>
        <dt>here</dt>
        <dd class="mono" :class="{ doubt: set.late }">
          {{ asIs ? 'now' : set.ready_on ? day(set.ready_on) : 'not known' }}
        </dd>
      </div>
    </dl>
    <span class="narrow why">{{ asIs ? '' : set.why }}</span>
    <span class="narrow suits" :class="set.over_budget || set.late ? 'doubt' : SUITS[set.suits].tone">
      {{ set.over_budget ? 'over budget' : set.late ? 'too late' : SUITS[set.suits].words }}
    </span>
  </li>
</template>

<style scoped>
.set {
  display: grid;
  grid-template-columns: 22px minmax(0, 1fr) 134px 190px 104px;
  gap: 2px 14px;
  align-items: center;
  padding: 9px 8px;
  border-bottom: 1px solid var(--hair);
  cursor: pointer;
}
.set.on {
  background: var(--sheet);
  box-shadow: inset 3px 0 0 var(--dye);
}
.rank {
  font-size: 18px;
}
.chain {
  display: flex;
  min-width: 0;
  margin: 0;
  padding: 0;
  list-style: none;
}
.chain li {
  display: grid;
  flex: 1 1 0;
  min-width: 0;
  padding: 0 8px;
  line-height: 1.25;
  border-left: 1px solid var(--hair);
}
.part {
  color: var(--quiet);
  font-size: 15px;
}
.changed {
  flex-grow: 2 !important;
  border-left: 3px solid var(--cut) !important;
}
.changed .part {
  font-weight: 600;
  color: var(--ink);
}
.as-is {
  font-weight: 600;
}
.why {
  color: var(--dye);
}
.suits,
.why {
  grid-column: 5;
}
.why {
  grid-row: 1;
  align-self: end;
}
.suits {
  grid-row: 2;
  align-self: start;
}
.rank,
.chain,
.as-is,
.gain,
.set > dl {
  grid-row: 1 / 3;
}
.gain {
  font-size: 17px;
  text-align: right;
  white-space: nowrap;
}
dl {
  margin: 0;
  font-size: 15px;
}
dl > div {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  white-space: nowrap;
}
dt {
  font: 500 14px/1.5 var(--narrow);
  color: var(--quiet);
}
dd {
  margin: 0;
  font-size: 14px;
}
@media (max-width: 1000px) {
  .set {
    grid-template-columns: 22px minmax(0, 1fr) 134px;
  }
  .rank {
    grid-row: 1 / 3;
  }
  .chain,
  .as-is,
  .gain {
    grid-row: 1;
  }
  .set > dl,
  .why,
  .suits {
    grid-row: 2;
  }
  .set > dl {
    display: flex;
    gap: 18px;
    grid-column: 2;
  }
  .why,
  .suits {
    grid-column: 3;
    justify-self: end;
  }
  .why {
    grid-row: 3;
  }
}
</style>
