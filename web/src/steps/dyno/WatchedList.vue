<script setup lang="ts">
/** Files that came into the watched folder: to be looked at like dropped ones, or left out. */
import { useIntervalFn } from '@vueuse/core'
import { ref } from 'vue'
import { api, told, whileReachable, type Schemas } from '@/api/client'
import KeyCap from '@/frame/KeyCap.vue'
import { useKeys } from '@/frame/keys'

type Watched = Schemas['WatchedFile']
const emit = defineEmits<{ take: [files: Watched[]] }>()
const LOOK_MS = 3000
const SHOWN = 4
const view = ref<Schemas['WatchedView'] | null>(null)
const { pause } = useIntervalFn(() => void look(), LOOK_MS, { immediateCallback: true })

/** Where no folder is watched it is not asked again. */
async function look(): Promise<void> {
  await whileReachable(async () => {
    view.value = await told(api.GET('/api/dyno/watched'))
    if (!view.value) pause()
  }).catch(() => undefined)
}

async function leave(): Promise<void> {
  for (const { digest } of view.value?.files ?? [])
    await told(api.POST('/api/dyno/watched/left', { body: { digest } }))
  await look()
}
const takeAll = () => view.value?.files.length && emit('take', view.value.files)
useKeys([{ key: 'w', says: 'look at the files of the watched folder', run: takeAll }])
</script>

<template>
  <div v-if="view?.files.length || view?.problem" class="watched">
    <span v-if="view.problem" class="harm">{{ view.problem }}</span>
    <template v-else>
      <span>
        <b>{{ view.files.length }} new in {{ view.folder }}:</b>
        {{
          view.files
            .slice(0, SHOWN)
            .map((f) => f.name)
            .join(', ')
        }}{{ view.files.length > SHOWN ? ' and more' : '' }}
      </span>
      <button type="button" class="way" @click="takeAll"><KeyCap k="W" /> look at them</button>
      <button type="button" class="way" @click="leave">leave them out</button>
    </template>
  </div>
</template>

<style scoped>
.watched {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  align-items: center;
  padding: 6px 12px;
  border-left: 4px solid var(--dye);
  background: var(--dye-wash);
}
</style>
