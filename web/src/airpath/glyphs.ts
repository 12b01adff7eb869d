/** What is drawn inside an element to tell its kind: a filter's pleats, a cooler's fins, a restrictor's throat. */

/** Where an element is drawn: from x0 to x1 round yIn, as wide as its bore. */
interface Place {
  x0: number
  x1: number
  yIn: number
  boreIn: number
}

export const pleats = (s: Place): string => {
  const n = Math.max(4, Math.round((s.x1 - s.x0) / 7))
  const step = ((s.x1 - s.x0) * 0.7) / n
  const from = s.x0 + (s.x1 - s.x0) * 0.15
  return Array.from(
    { length: n + 1 },
    (_, i) => `${i ? 'L' : 'M'}${from + i * step},${s.yIn + (i % 2 ? 1 : -1) * s.boreIn * 0.4}`,
  ).join('')
}
/** A cooler: fins across the air. */
export function fins(s: Place): string {
  const n = 5
  return Array.from({ length: n }, (_, i) => {
    const x = s.x0 + ((i + 1) * (s.x1 - s.x0)) / (n + 1)
    return `M${x},${s.yIn - s.boreIn * 0.42}v${s.boreIn * 0.84}`
  }).join('')
}
/** A restrictor: its throat. */
export function throat(s: Place): string {
  const [x, half, gap] = [(s.x0 + s.x1) / 2, s.boreIn / 2, s.boreIn * 0.22]
  return [-1, 1]
    .map(
      (side) => `M${s.x0},${s.yIn + side * half}L${x},${s.yIn + side * gap}L${s.x1},${s.yIn + side * half}`,
    )
    .join('')
}
