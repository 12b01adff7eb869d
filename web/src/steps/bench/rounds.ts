/** Rounds: every runner read several times as a plan, so that a repeat needs no answer of its own. */
import { useStorage } from '@vueuse/core'
import { computed, type Ref } from 'vue'
import { now, type Schemas } from '@/api/client'
import type { Write } from '@/api/outbox'
import type { Side } from './capture'

type Sheet = Pick<Schemas['BenchSheet'], 'rungs'>

/** Runner after runner, round by round; or one runner as often as planned, then the next. A runner that is not taken
 * off between its readings is one refit, read again. */
export interface Rounds {
  times: number
  order: 'rounds' | 'runner'
  refitted: boolean
  since: string
}

export const MOST_ROUNDS = 9

/** The runner that is due after one was read, of so many readings each; none where all are in. */
export function due(
  counts: number[],
  from: number,
  plan: Pick<Rounds, 'times' | 'order'>,
): number | undefined {
  const open = counts.flatMap((count, i) => (count < plan.times ? [i + 1] : []))
  if (plan.order === 'runner' && open.includes(from)) return from
  const least = plan.order === 'rounds' ? Math.min(...open.map((n) => counts[n - 1] ?? 0)) : Infinity
  const next = open.filter((n) => plan.order === 'runner' || counts[n - 1] === least)
  return next.find((n) => n > from) ?? next[0]
}

/** `untold` gives the figures of a runner on the chosen side that the sheet does not tell of yet. */
export function useRounds(
  jobId: string,
  sheet: Readonly<Ref<Sheet | undefined>>,
  side: Ref<Side>,
  untold: (cylinder: number) => Write[],
) {
  const plan = useStorage<Rounds | null>(`elvarn-rounds:${jobId}`, null, undefined, {
    serializer: {
      read: (text) => JSON.parse(text) as Rounds | null,
      write: (value) => JSON.stringify(value),
    },
  })

  function counts(): number[] {
    const since = Date.parse(plan.value?.since ?? '')
    return (sheet.value?.rungs ?? []).map((rung) => {
      const told = rung[side.value].readings.filter((r) => !r.struck && Date.parse(r.taken_at) >= since)
      const more = untold(rung.cylinder).filter((w) => Date.parse(String(w.body['taken_at'])) >= since)
      return told.length + more.length
    })
  }

  const done = computed(() => {
    const all = counts()
    return all.length ? Math.min(...all) : 0
  })

  const words = computed(() => {
    if (!plan.value) return ''
    const { times, order } = plan.value
    if (done.value >= times) return `${times} of ${times} rounds done`
    return order === 'rounds' ? `round ${done.value + 1} of ${times}` : `${times} readings each`
  })

  function begin(times: number, order: Rounds['order'], refitted: boolean): void {
    plan.value = { times, order, refitted, since: now() }
  }

  return {
    plan,
    words,
    begin,
    end: () => (plan.value = null),
    /** The plan while it is under way: once all is read, a repeat is asked about again. */
    running: () => (plan.value && done.value < plan.value.times ? plan.value : null),
    due: (from: number) => (plan.value ? due(counts(), from, plan.value) : undefined),
  }
}
