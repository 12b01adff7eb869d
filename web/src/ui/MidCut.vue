<script setup lang="ts">
/** Words that are cut in the middle where there is no room for them: their end stays to be read. */
import { computed } from 'vue'

const props = defineProps<{ words: string }>()
const END = 12
const cut = computed(() => {
  const { length } = props.words
  const word = props.words.lastIndexOf(' ', length - END)
  const at = length <= 2 * END ? length : word > length - 2 * END ? word : length - END
  return [props.words.slice(0, at), props.words.slice(at)] as const
})
</script>

<template>
  <span class="mid-cut" :title="words"
    ><span class="head">{{ cut[0] }}</span
    ><span v-if="cut[1]" class="tail">{{ cut[1] }}</span></span
  >
</template>

<style scoped>
.mid-cut {
  display: flex;
  min-width: 0;
  max-width: 100%;
  white-space: pre;
}
.head {
  overflow: hidden;
  text-overflow: ellipsis;
}
.tail {
  flex: none;
}
</style>
