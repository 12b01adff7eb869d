<script setup lang="ts">
/** Pictures of a job or part: a tablet offers its camera as well as files. One opens large. */
import { ref } from 'vue'
import { api, asBytes, newId, problemIn, told, type Schemas } from '@/api/client'
import { vFocus } from './focus'
import KeyCap from '@/frame/KeyCap.vue'
import { useSession } from '@/frame/session'

const props = defineProps<{
  photos: Schemas['PhotoView'][]
  jobId?: string
  partId?: string
  keyCap?: string
  /** Of which place of a runner or which task, and what is written under a picture where nothing is typed. */
  at?: { part_state_id?: string; cylinder?: number; place_mm?: number; task_id?: string; caption: string }
}>()
const emit = defineEmits<{ added: [] }>()
const { personId } = useSession()
const file = ref<HTMLInputElement>()
const large = ref<Schemas['PhotoView']>()
const caption = ref('')
const failure = ref('')
const busy = ref(false)

async function add(files: FileList | null): Promise<void> {
  busy.value = true
  failure.value = ''
  try {
    for (const picture of files ?? []) {
      const bytes = await picture.arrayBuffer()
      const { name } = picture
      const { digest = '' } = await told(
        api.POST('/api/pictures', { params: { query: { name } }, ...asBytes(bytes) }),
      )
      await told(
        api.PUT('/api/photos/{photo_id}', {
          params: { path: { photo_id: newId() } },
          body: {
            person_id: personId.value,
            file_digest: digest,
            job_id: props.jobId ?? null,
            part_id: props.partId ?? null,
            ...props.at,
            caption: caption.value || (props.at?.caption ?? ''),
          },
        }),
      )
    }
    caption.value = ''
    emit('added')
  } catch (error) {
    failure.value = problemIn(error, 'Choose the picture again.').detail
  } finally {
    busy.value = false
    if (file.value) file.value.value = ''
  }
}
defineExpose({ choose: () => file.value?.click() })
</script>

<template>
  <div class="photos" @dragover.prevent @drop.prevent.stop="add($event.dataTransfer?.files ?? null)">
    <button v-for="p in photos" :key="p.id" type="button" class="plain-button photo" @click="large = p">
      <img :src="`/api/pictures/${p.digest}`" :alt="p.caption || 'Photo, no caption'" />
      <span class="narrow">{{ p.caption }}</span>
    </button>
    <div class="add">
      <input v-model="caption" class="words" placeholder="caption" aria-label="What the picture shows" />
      <button type="button" class="way" :disabled="busy" @click="file?.click()">
        {{ busy ? 'Saving…' : 'Add photo' }} <KeyCap v-if="keyCap" :k="keyCap" />
      </button>
      <input
        ref="file"
        type="file"
        accept="image/jpeg,image/png,image/webp"
        multiple
        class="hidden-to-eyes"
        aria-label="Picture"
        @change="add(($event.target as HTMLInputElement).files)"
      />
      <p v-if="failure" class="harm" role="alert">{{ failure }}</p>
    </div>
    <div v-if="large" class="large" role="dialog" aria-label="Picture" @click="large = undefined">
      <img :src="`/api/pictures/${large.digest}`" :alt="large.caption" />
      <p>
        {{ large.caption }}
        <button type="button" class="way" v-focus @click="large = undefined" @keydown.esc="large = undefined">
          Close <KeyCap k="Esc" />
        </button>
      </p>
    </div>
  </div>
</template>

<style scoped>
.photos {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: start;
}
.photo {
  display: grid;
  width: 148px;
}
.photo img {
  width: 148px;
  height: 104px;
  object-fit: cover;
}
.add {
  display: grid;
  gap: 6px;
  align-content: start;
}
.words {
  font: inherit;
  color: inherit;
  padding: 4px 8px;
  border: 1px solid var(--hair);
  background: var(--sheet);
  width: 170px;
}
.large {
  position: fixed;
  inset: 0;
  z-index: 10;
  display: grid;
  place-content: center;
  gap: 10px;
  padding: 24px;
  background: color-mix(in srgb, var(--ground) 92%, transparent);
}
.large img {
  max-width: 90vw;
  max-height: 78vh;
}
</style>
