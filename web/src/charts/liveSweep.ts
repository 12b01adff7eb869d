/** A sweep as it forms: the samples that rise, and where it stands against a curve. */

/** Samples whose speed is the highest so far: a hold at the start is one of them, the coast-down none. */
export function driven(points: number[][]): number[][] {
  let top = -Infinity
  return points.filter((p) => {
    const speed = p[0] ?? 0
    const rises = speed > top
    top = Math.max(top, speed)
    return rises
  })
}

/** By how much a value at a speed is above a curve; nothing where the curve was not pulled. */
export function aheadBy(
  speeds: number[],
  values: number[],
  speed: number,
  value: number,
): number | undefined {
  const after = speeds.findIndex((n) => n >= speed)
  if (after < 0 || speed < (speeds[0] ?? Infinity)) return undefined
  if (after === 0) return value - values[0]!
  const [n0, n1] = [speeds[after - 1]!, speeds[after]!]
  const [v0, v1] = [values[after - 1]!, values[after]!]
  return value - (v0 + ((speed - n0) / (n1 - n0)) * (v1 - v0))
}

const LAST = 8

/** Where the sweep stands: the mean of its last samples, as one alone is noise. */
export function standing(points: number[][], at: number): { speed: number; value: number } | undefined {
  const last = points.slice(-LAST)
  if (!last.length) return undefined
  const mean = (of: number) => last.reduce((sum, p) => sum + (p[of] ?? 0), 0) / last.length
  return { speed: mean(0), value: mean(at) }
}
