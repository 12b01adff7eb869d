<script setup lang="ts">
/** What single items of the set-ups do; and pairs that are unlike, which are shown only when asked for, with the list. */
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'

const props = defineProps<{ effects: Schemas['EffectView'][] }>()
const unlike = ref(false)
const alike = computed(() => props.effects.filter((e) => e.alike))
const others = computed(() => props.effects.filter((e) => !e.alike))
const ports = (e: Schemas['EffectView']) => `${e.ports} port${e.ports > 1 ? 's' : ''}, ${e.state}`
</script>

<template>
  <div class="effects">
    <h3>Effect of one change</h3>
    <p v-if="!alike.length" class="quiet narrow">
      Change one set-up item, read the same runner again, and its effect shows here.
    </p>
    <table v-else>
      <tbody>
        <tr v-for="(e, i) in alike" :key="i">
          <th>
            {{ e.items[0]?.item }}
            <small class="quiet">{{ ports(e) }}</small>
          </th>
          <td>{{ e.items[0]?.first }} → {{ e.items[0]?.second }}</td>
          <td class="mono">{{ e.first.text }} → {{ e.second.text }} {{ e.second.unit }}</td>
          <td class="mono strong">{{ e.percent }}</td>
          <td class="mono">±{{ e.half_width }}</td>
          <td>{{ e.words }}</td>
        </tr>
      </tbody>
    </table>
    <button v-if="others.length" type="button" class="way" :aria-expanded="unlike" @click="unlike = !unlike">
      {{ unlike ? '▾' : '▸' }} {{ others.length }} pair{{ others.length > 1 ? 's' : '' }} with several changes
    </button>
    <table v-if="unlike">
      <tbody>
        <tr v-for="(e, i) in others" :key="i">
          <th>
            <span class="doubt">several changes</span>
            <small class="quiet">{{ ports(e) }}</small>
          </th>
          <td>
            <span v-for="item in e.items" :key="item.item"
              >{{ item.item }}: {{ item.first }} → {{ item.second }}<br
            /></span>
          </td>
          <td class="mono">{{ e.first.text }} → {{ e.second.text }} {{ e.second.unit }}</td>
          <td class="mono">{{ e.percent }}</td>
          <td colspan="2" class="doubt">combined effect</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.effects {
  display: grid;
  gap: 8px;
}
table {
  border-collapse: collapse;
  font: 500 15px var(--narrow);
}
th,
td {
  padding: 6px 12px 6px 0;
  text-align: left;
  vertical-align: top;
  border-top: 1px solid var(--hair);
}
th {
  font-weight: 600;
}
td.mono {
  font: 500 14px var(--mono);
  white-space: nowrap;
}
td.strong {
  font-weight: 600;
}
.way {
  justify-self: start;
}
th small {
  display: block;
  font: 500 13px var(--narrow);
}
</style>
