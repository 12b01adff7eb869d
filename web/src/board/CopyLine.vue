<script setup lang="ts">
/** How the shop's daily copy goes: quiet while it does. */
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import type { Schemas } from '@/api/client'
import { dayAndTime } from '@/ui/words'
import { copyWords } from './copy'

const props = defineProps<{ daily: boolean; last: Schemas['LastCopy'] }>()
const said = computed(() => copyWords(props.daily, props.last, new Date(), dayAndTime))
</script>

<template>
  <p class="copy narrow" :class="said.doubt ? 'doubt' : 'quiet'">
    {{ said.text }} <RouterLink to="/lines">Copies</RouterLink>
  </p>
</template>

<style scoped>
.copy {
  padding: 14px 0;
}
a {
  color: inherit;
}
</style>
