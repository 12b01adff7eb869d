<script setup lang="ts">
/** What comes then and what holds it up: open tasks in their order, each tied to what it waits for. */
import { computed } from 'vue'
import type { Schemas } from '@/api/client'

type Task = Schemas['FitTaskView']
const props = defineProps<{
  tasks: readonly Task[]
  all: readonly Task[]
  now?: string | null
  chosen?: string
  refused: readonly string[]
}>()
const emit = defineEmits<{ choose: [task: Task] }>()
const ROW = 30
const LANES = [14, 34]
const titles = computed(() => new Map(props.all.map((t) => [t.key, t.title])))
const places = computed(() => new Map(props.tasks.map((t, n) => [t.key, n])))
/** The last of those that a task waits for and that is drawn here. */
const tied = (t: Task) => Math.max(-1, ...t.waits.map((key) => places.value.get(key) ?? -1))
const free = (t: Task) => t.state !== 'done' && !t.waits.length && t.key !== props.now
const nodes = computed(() =>
  props.tasks.map((task, n) => ({
    task,
    x: free(task) ? LANES[1]! : LANES[0]!,
    y: n * ROW + ROW / 2,
    from: tied(task),
  })),
)
const ties = computed(() =>
  nodes.value.flatMap((node, n) => {
    const from = nodes.value[node.from]
    return from && node.from < n
      ? [
          `M${from.x},${from.y}V${node.y - 22}C${from.x},${node.y - 8} ${node.x},${node.y - 20} ${node.x},${node.y}`,
        ]
      : []
  }),
)
function says(t: Task): string {
  if (t.key === 'sign off') {
    return props.refused.length
      ? `refused: ${props.refused.length} open`
      : t.state === 'done'
        ? 'done'
        : 'ready'
  }
  if (t.state === 'done') return 'done'
  if (t.state === 'waiting') return 'on hold'
  const first = t.waits[0]
  if (!first) return t.safety ? 'safety' : t.key === props.now ? t.phase : 'any time'
  const more = t.waits.length > 1 ? `, +${t.waits.length - 1}` : ''
  return `${t.safety ? 'safety, ' : ''}after ${(titles.value.get(first) ?? '').toLowerCase()}${more}`
}
</script>

<template>
  <section aria-label="Then, and what holds it up">
    <h3 class="quiet">Then, and what holds it up</h3>
    <div class="graph">
      <svg :width="48" :height="tasks.length * ROW" aria-hidden="true">
        <path v-for="tie in ties" :key="tie" :d="tie" />
        <template v-for="n in nodes" :key="n.task.key">
          <rect
            v-if="n.task.key === 'sign off'"
            :class="{ refused: refused.length }"
            :x="n.x - 6"
            :y="n.y - 6"
            width="12"
            height="12"
          />
          <path v-else-if="n.task.safety" class="safety" :d="`M${n.x},${n.y - 7}l7,7l-7,7l-7,-7z`" />
          <circle
            v-else
            :class="{ now: n.task.key === now, waits: n.task.waits.length }"
            :cx="n.x"
            :cy="n.y"
            r="6.5"
          />
        </template>
      </svg>
      <ol>
        <li v-for="t in tasks" :key="t.key" :class="{ now: t.key === now, chosen: t.key === chosen }">
          <button type="button" class="plain-button" @click="emit('choose', t)">
            <span class="title" :class="{ harm: t.key === 'sign off' && refused.length }">{{ t.title }}</span>
            <span
              class="says narrow"
              :class="{ harm: t.safety || (t.key === 'sign off' && refused.length) }"
              >{{ says(t) }}</span
            >
          </button>
        </li>
      </ol>
    </div>
  </section>
</template>

<style scoped>
.graph {
  display: grid;
  grid-template-columns: 48px minmax(0, 1fr);
}
ol {
  margin: 0;
  padding: 0;
  list-style: none;
}
li,
li button {
  height: 30px;
}
li button {
  display: flex;
  gap: 10px;
  justify-content: space-between;
  align-items: center;
  width: 100%;
  text-align: left;
  line-height: 1.1;
}
.title {
  flex: 1;
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
}
.now .title {
  font-weight: 600;
}
.chosen {
  background: var(--dye-wash);
}
.says {
  flex: none;
  max-width: 48%;
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
  font-size: 13.5px;
  font-weight: 600;
  color: var(--quiet);
}
.harm {
  color: var(--harm);
}
svg path {
  fill: none;
  stroke: var(--quiet);
  stroke-width: 1.1;
}
svg circle,
svg rect {
  fill: var(--ground);
  stroke: var(--ink);
  stroke-width: 1.6;
}
svg .now {
  fill: var(--dye);
  stroke: var(--dye);
}
svg .waits {
  stroke: var(--quiet);
  stroke-dasharray: 3 3;
}
svg .safety,
svg .refused {
  fill: var(--harm-wash);
  stroke: var(--harm);
  stroke-width: 1.6;
}
</style>
