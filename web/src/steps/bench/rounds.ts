/** Rounds: every runner read several times as a plan, so that a repeat needs no answer of its own. */
import { useStorage } from '@vueuse/core'
import { computed, onScopeDispose, ref, type Ref } from 'vue'
import { now, type Schemas } from '@/api/client'
import { useOutbox, type Write } from '@/api/outbox'
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

/** `isOf` tells whether a waiting write is a figure of a runner on the side that is chosen. */
export function useRounds(
  jobId: string,
  sheet: Readonly<Ref<Sheet | undefined>>,
  side: Ref<Side>,
  isOf: (write: Write, cylinder: number) => boolean,
) {
  const { writes, onSent } = useOutbox()
  const plan = useStorage<Rounds | null>(`elvarn-rounds:${jobId}`, null, undefined, {
    serializer: {
      read: (text) => JSON.parse(text) as Rounds | null,
      write: (value) => JSON.stringify(value),
    },
  })
  /** Figures that were kept here, by id: the sheet may not have told of them yet. */
  const kept = ref(new Map<string, number>())
  const delivered = new Set<string>()
  onScopeDispose(
    onSent((write) => void delivered.add(write.id)),
    true,
  )

  function counts(): number[] {
    const since = Date.parse(plan.value?.since ?? '')
    return (sheet.value?.rungs ?? []).map((rung) => {
      const told = rung[side.value].readings
      const valid = new Set(told.filter((r) => !r.struck && Date.parse(r.taken_at) >= since).map((r) => r.id))
      const known = new Set(told.map((r) => r.id))
      for (const write of writes.value)
        if (isOf(write, rung.cylinder) && Date.parse(String(write.body['taken_at'])) >= since)
          valid.add(write.id)
      for (const [id, cylinder] of kept.value)
        if (cylinder === rung.cylinder && !known.has(id) && delivered.has(id)) valid.add(id)
      return valid.size
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
    kept.value = new Map()
    plan.value = { times, order, refitted, since: now() }
  }

  return {
    plan,
    words,
    begin,
    end: () => (plan.value = null),
    note: (id: string, cylinder: number) => plan.value && kept.value.set(id, cylinder),
    /** The plan while it is under way: once all is read, a repeat is asked about again. */
    running: () => (plan.value && done.value < plan.value.times ? plan.value : null),
    due: (from: number) => (plan.value ? due(counts(), from, plan.value) : undefined),
  }
}
