/** Sections as they are drawn: an outline in millimetres round the middle, twelve o'clock up. */
import type { Schemas } from '@/api/client'

type Cell = Schemas['PortCell']
export interface Point {
  x: number
  y: number
}

/** A point at an hour of the clock, so far from the middle. */
export function onClock(hour: number, distance: number): Point {
  const angle = (hour / 12) * 2 * Math.PI
  return { x: distance * Math.sin(angle), y: -distance * Math.cos(angle) }
}

/** A closed path through points. */
export const closed = (points: readonly Point[]): string =>
  points.length ? `M${points.map((p) => `${p.x.toFixed(2)},${p.y.toFixed(2)}`).join('L')}Z` : ''

/** Radius of the circle of an area. */
export const radiusOf = (areaMm2: number): number => Math.sqrt(areaMm2 / Math.PI)

/** Width, height and corners of a section as a rounded box; a D by its box. */
export function boxOf(cell: Cell): { width: number; height: number; corner: number } {
  const sizes = cell.sizes_mm
  const [first = 0, second = first, third] = sizes
  if (!sizes.length) {
    const across = 2 * radiusOf(cell.now_mm2 ?? 0)
    return { width: across, height: across, corner: across / 2 }
  }
  const [low, high] = [Math.min(first, second), Math.max(first, second)]
  if (cell.shape === 'rectangle') return { width: first, height: second, corner: third ?? 0 }
  if (cell.shape === 'd') return { width: high, height: low, corner: low / 2 }
  if (cell.shape === 'ellipse') return { width: first, height: second, corner: Math.max(first, second) }
  return { width: high, height: low, corner: low / 2 }
}

/** How far out a section reaches at an hour: as traced, else as the circle of its area. */
export function radiusAt(cell: Cell, hour: number): number {
  const to = onClock(hour, 1)
  let best = { along: -2, out: radiusOf(cell.now_mm2 ?? 0) }
  for (const [x = 0, y = 0] of cell.outline_mm) {
    const out = Math.hypot(x, y) || 1
    const along = (x * to.x - y * to.y) / out
    if (along > best.along) best = { along, out }
  }
  return best.out
}

/** The wall at an hour, straight between the places where it was gauged; nothing where none was. */
export function wallAt(walls: readonly { hour: number; mm: number }[], hour: number): number | undefined {
  const known = [...walls].sort((a, b) => (a.hour % 12) - (b.hour % 12))
  const [first] = known
  const last = known.at(-1)
  if (!first || !last) return undefined
  const round = [
    { hour: (last.hour % 12) - 12, mm: last.mm },
    ...known.map((w) => ({ hour: w.hour % 12, mm: w.mm })),
    { hour: (first.hour % 12) + 12, mm: first.mm },
  ]
  const at = hour % 12
  const next = round.findIndex((w) => w.hour > at)
  const [before, after] = [round[next - 1], round[next]]
  if (!before || !after) return last.mm
  const share = (at - before.hour) / (after.hour - before.hour || 1)
  return before.mm + share * (after.mm - before.mm)
}

/** Seconds as a watch shows them. */
export function watch(seconds: number): string {
  const whole = Math.max(0, Math.floor(seconds))
  const [hours, minutes, rest] = [Math.floor(whole / 3600), Math.floor((whole % 3600) / 60), whole % 60]
  const two = (n: number) => n.toString().padStart(2, '0')
  return hours ? `${hours}:${two(minutes)}:${two(rest)}` : `${minutes}:${two(rest)}`
}
