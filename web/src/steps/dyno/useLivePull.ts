/** A recorded pull as it forms: its last state, and every sample of its sweep from the first on. */
import { onBeforeUnmount, ref, shallowRef } from 'vue'
import type { Schemas } from '@/api/client'

type LivePull = Schemas['LivePull']

export function useLivePull(id: string, units: string) {
  const state = shallowRef<LivePull>()
  const points = shallowRef<number[][]>([])
  const lost = ref('')
  const source = new EventSource(`/api/recordings/${id}/live?units=${units}`)

  /** A connection that is new tells all from the first sample on. */
  source.onopen = () => {
    points.value = []
    lost.value = ''
  }
  source.onmessage = (event: MessageEvent<string>) => {
    const now = JSON.parse(event.data) as LivePull
    if (now.points.length) points.value = [...points.value, ...now.points]
    state.value = carriedOn(now, state.value)
    if (now.ended) source.close()
  }
  source.onerror = () => (lost.value = 'Elvarn does not answer here. The pull is recorded all the same.')
  onBeforeUnmount(() => source.close())
  return { state, points, lost }
}

/** What the dyno showed last stands on while nothing new comes. */
function carriedOn(now: LivePull, before: LivePull | undefined): LivePull {
  if (now.speed || !before) return now
  const { speed, power, torque, basis, standard, gauges } = before
  return { ...now, speed, power, torque, basis, standard, gauges }
}
