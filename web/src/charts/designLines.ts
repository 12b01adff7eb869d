/** How designs are told apart on a plate: hue by manifold, dash by throttle; and where their names stand. */

const HUES = ['var(--ink)', 'var(--cut)', 'var(--dye)', 'var(--green)', 'var(--plum)', 'var(--quiet)']
const DASHES = ['', '7 4', '2 4', '10 3 2 3']

export const hueOf = (hue: number | undefined): string => HUES[(hue ?? 0) % HUES.length] ?? 'var(--ink)'
export const dashOf = (dash: number | undefined): string | undefined =>
  DASHES[(dash ?? 0) % DASHES.length] || undefined

export interface End {
  id: string
  at: number
}

/** Names at their ends, at least so far apart; `to` is where each stands. Those pushed down push the ones above them up
 * as far as need be, so that all stay near their ends. */
export function apart(ends: End[], least: number): (End & { to: number })[] {
  const sorted = ends.toSorted((a, b) => a.at - b.at).map((one) => ({ ...one, to: one.at }))
  for (let round = 0; round < 20; round++) {
    let moved = false
    for (let i = 1; i < sorted.length; i++) {
      const [above, below] = [sorted[i - 1]!, sorted[i]!]
      const short = least - (below.to - above.to)
      if (short <= 0.01) continue
      above.to -= short / 2
      below.to += short / 2
      moved = true
    }
    if (!moved) break
  }
  return sorted
}

/** The part of a curve inside a band, with its values at the band's ends. */
export function within(
  speeds: number[],
  values: number[],
  [low, high]: [number, number],
): [number, number][] {
  const at = (speed: number): number => {
    const after = speeds.findIndex((n) => n >= speed)
    if (after <= 0) return values[Math.max(after, 0)] ?? 0
    const [n0, n1] = [speeds[after - 1] ?? 0, speeds[after] ?? 1]
    const [v0, v1] = [values[after - 1] ?? 0, values[after] ?? 0]
    return v0 + ((speed - n0) / (n1 - n0)) * (v1 - v0)
  }
  const [from, to] = [Math.max(low, speeds[0] ?? low), Math.min(high, speeds.at(-1) ?? high)]
  if (from >= to) return []
  const inside = speeds.flatMap((n, i): [number, number][] =>
    n > from && n < to ? [[n, values[i] ?? 0]] : [],
  )
  return [[from, at(from)], ...inside, [to, at(to)]]
}
