<script setup lang="ts">
/** A job or part put away, or taken away for good where nothing rests on it: that is asked twice. */
import Button from 'primevue/button'
import { ref } from 'vue'

defineProps<{ what: string; archived: boolean }>()
const emit = defineEmits<{ away: [archived: boolean]; remove: [] }>()
const asked = ref(false)
</script>

<template>
  <p class="put-away narrow">
    <Button type="button" size="small" severity="secondary" outlined @click="emit('away', !archived)">{{
      archived ? `Take this ${what} out again` : `Put this ${what} away`
    }}</Button>
    <Button v-if="!asked" type="button" size="small" severity="secondary" text @click="asked = true"
      >Delete…</Button
    >
    <template v-else>
      <span class="harm">It can't be brought back.</span>
      <Button type="button" size="small" severity="danger" outlined @click="((asked = false), emit('remove'))"
        >Delete this {{ what }}</Button
      >
      <Button type="button" size="small" severity="secondary" text @click="asked = false">Leave it</Button>
    </template>
  </p>
</template>

<style scoped>
.put-away {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  align-items: center;
}
</style>
