/** Recorded pulls on the dyno screen: the one on its way, and those that are over and wait to be kept. */
import { computed, ref, watch, type Ref } from 'vue'
import type { Schemas } from '@/api/client'

type View = Schemas['RecordingView']

export function useRecording(
  beside: Ref<Schemas['BesideView'] | undefined>,
  take: (one: View) => Promise<void>,
) {
  const starting = ref(false)
  const every = computed(() => beside.value?.start.recordings ?? [])
  const open = computed(() => every.value.find((one) => one.open))
  /** Over, neither kept nor left out: of whoever recorded it, on whatever screen. */
  const waiting = computed(() => every.value.filter((one) => !one.open))
  const busy = computed(() => !!open.value || starting.value)

  /** One that ends while it is looked at is taken up at once. */
  watch(open, (now, before) => {
    if (now) starting.value = false
    const over = before && !now ? every.value.find((one) => one.id === before.id) : undefined
    if (over?.file_digest) void take(over)
  })

  /** While one is on its way none can be begun. */
  const start = () => (starting.value = !open.value)
  return { starting, open, waiting, busy, start }
}
