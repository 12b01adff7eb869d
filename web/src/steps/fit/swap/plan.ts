/** A swap's plan as it is sent again, and how a strand is drawn. */
import type { Schemas } from '@/api/client'

type Swap = Schemas['SwapView']
type Plan = Schemas['SwapPlan']

/** Everything that was said of a swap, to be sent with a change. */
export function planOf(swap: Swap): Plan {
  return {
    family: swap.family,
    mock_up: swap.mock_up,
    seal: swap.seal,
    schools: Object.fromEntries(swap.schools.map((s) => [s.code, s.taken])),
    said: swap.said as Plan['said'],
    extras: swap.extras,
    steps: swap.steps,
    in_the_way: swap.in_the_way,
    renewals: swap.renewals,
    kit: Object.fromEntries(
      swap.kit.filter((line) => line.counted != null).map((line) => [line.words, line.counted as number]),
    ),
  }
}

export type Shape = 'straight' | 'kink' | 'bar' | 'gap' | 'asked'

/** The form of a strand is its verb: straight goes over as it is, a kink is work, a bar ends it, a gap begins anew. */
export function shapeOf(verb: string): Shape {
  if (verb === 'transfer') return 'straight'
  if (verb === 'blank off' || verb === 'delete' || verb === 'loop') return 'bar'
  if (verb === 'new') return 'gap'
  return verb === 'find out' ? 'asked' : 'kink'
}

/** Tasks that stand below "then": from the one that is on, what is open, in order; the last ones always. */
export function following<T extends { key: string; state: string }>(
  tasks: readonly T[],
  now: string | null | undefined,
  most: number,
): T[] {
  const open = tasks.filter((t) => t.state !== 'done' || t.key === now)
  const from = Math.max(
    0,
    open.findIndex((t) => t.key === now),
  )
  const near = open.slice(from, from + most)
  const end = open.at(-1)
  return end && !near.includes(end) ? [...near.slice(0, most - 1), end] : near
}
