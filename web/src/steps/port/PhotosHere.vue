<script setup lang="ts">
/** Photos of one station of a runner, side by side in the order in which they were taken: before, and after. */
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import PhotoStrip from '@/ui/PhotoStrip.vue'

const props = defineProps<{
  jobId: string
  stateId: string
  state: string
  runner: number
  place: number
  photos: Schemas['PhotoView'][]
}>()
const emit = defineEmits<{ added: [] }>()
const strip = ref<InstanceType<typeof PhotoStrip>>()
const here = computed(() =>
  props.photos.filter(
    (p) => p.cylinder === props.runner && (p.place_mm == null || Math.abs(p.place_mm - props.place) < 0.5),
  ),
)
const at = computed(() => ({
  part_state_id: props.stateId,
  cylinder: props.runner,
  place_mm: props.place,
  caption: `runner ${props.runner}, ${props.place} mm, ${props.state}`,
}))
defineExpose({ choose: () => strip.value?.choose() })
</script>

<template>
  <section class="here" aria-label="Photos of this station">
    <h3>Photos, runner {{ runner }}, {{ place }} mm in</h3>
    <PhotoStrip ref="strip" :photos="here" :job-id="jobId" :at="at" key-cap="F" @added="emit('added')" />
  </section>
</template>

<style scoped>
.here {
  display: grid;
  gap: 6px;
  padding-top: 12px;
}
</style>
