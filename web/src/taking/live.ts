/** What a bench sends by itself: the figure forming, the samples of its strip, and what is wrong when none come. */
import { useEventSource } from '@vueuse/core'
import { computed, ref, shallowRef, watch, type Ref } from 'vue'
import type { Schemas } from '@/api/client'

export type LiveState = Schemas['LiveState']
const STRIP = 120

export function useLive(bench: Ref<Schemas['BenchView'] | undefined>, units: Ref<string>) {
  const state = shallowRef<LiveState>()
  const strip = shallowRef<number[]>([])
  /** Number of the last sample that came, and of the last before the figure now forming. */
  const last = ref(0)
  const since = ref(0)
  /** Another line of the same bench is another address, so that it is taken up anew. */
  const address = computed(() => {
    const line = bench.value?.line
    if (!bench.value || !line) return undefined
    return `/api/benches/${bench.value.id}/live?units=${units.value}#${JSON.stringify(line)}`
  })

  function hear(text?: string): LiveState | undefined {
    if (text === undefined) return undefined
    const now = JSON.parse(text) as LiveState
    const fresh = now.new ?? []
    state.value = now
    last.value = fresh.at(-1)?.number ?? last.value
    if (fresh.length) strip.value = [...strip.value, ...fresh.map((s) => s.flow_cfm)].slice(-STRIP)
    return now
  }

  watch(address, () => {
    state.value = undefined
    strip.value = []
  })
  const { error } = useEventSource(address, [], { autoReconnect: true, serializer: { read: hear } })
  watch(error, (failed) => {
    if (failed && state.value)
      state.value = { ...state.value, state: 'gone', words: 'Elvarn does not answer.', count: 0 }
  })

  /** How many samples make a figure, and how many of them came since the last one was taken. */
  const needed = computed(() => bench.value?.line?.samples ?? 10)
  const fresh = computed(() => Math.min(needed.value, last.value - since.value))
  /** What can be taken now: the mean of the last samples, all of them younger than the last figure. */
  const takeable = computed(() =>
    state.value?.state === 'speaking' && state.value.taken && fresh.value >= needed.value
      ? state.value
      : undefined,
  )

  /** A figure was taken: the next one forms from samples of its own. */
  function restart(): void {
    since.value = last.value
  }
  return { state, strip, takeable, fresh, needed, last, restart }
}
