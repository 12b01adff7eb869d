/** Outlines as they are drawn and moved by hand: points of a picture, x to the right and y down. */
export type Spot = [number, number]

/** Handles on an outline by which it is moved. */
const HANDLES = 36

/** As an outline comes over the wire. */
export const spots = (points: readonly (readonly number[])[]): Spot[] =>
  points.map(([x = 0, y = 0]) => [x, y] as Spot)

/** A closed path through points; `up` draws y upwards. */
export const pathOf = (points: readonly (readonly number[])[], up = false): string =>
  points.length
    ? `M${points.map(([x = 0, y = 0]) => `${x.toFixed(2)},${(up ? -y : y).toFixed(2)}`).join('L')}Z`
    : ''

/** Whether a spot lies inside a closed line: an odd number of its sides lie to the right. */
export function inside([x, y]: Spot, points: readonly Spot[]): boolean {
  let found = false
  points.forEach(([ax, ay], n) => {
    const [bx, by] = points[(n + 1) % points.length] ?? [ax, ay]
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) found = !found
  })
  return found
}

/** Area inside a closed line, whichever way round it runs. */
export function areaOf(points: readonly Spot[]): number {
  const twice = points.reduce((sum, [ax, ay], n) => {
    const [bx, by] = points[(n + 1) % points.length] ?? [ax, ay]
    return sum + ax * by - bx * ay
  }, 0)
  return Math.abs(twice) / 2
}

/** Middle of the area inside a closed line. */
export function middleOf(points: readonly Spot[]): Spot {
  let [twice, x, y] = [0, 0, 0]
  points.forEach(([ax, ay], n) => {
    const [bx, by] = points[(n + 1) % points.length] ?? [ax, ay]
    const cross = ax * by - bx * ay
    twice += cross
    x += (ax + bx) * cross
    y += (ay + by) * cross
  })
  return [x / (3 * twice), y / (3 * twice)]
}

/** The smallest outline round a spot: an opening within a flange is meant, not the flange. */
export function smallestAt<T extends { points: Spot[]; area: number }>(
  spot: Spot,
  all: readonly T[],
): T | undefined {
  return all.filter((one) => inside(spot, one.points)).sort((a, b) => a.area - b.area)[0]
}

/** Which points of an outline are its handles. */
export function handlesOf(points: readonly Spot[]): number[] {
  const count = Math.min(HANDLES, points.length)
  return Array.from({ length: count }, (_, n) => Math.floor((n * points.length) / count))
}

/** An outline of which one handle was moved: what lies between it and its neighbours follows. */
export function moved(points: readonly Spot[], handle: number, by: Spot): Spot[] {
  const step = points.length / Math.min(HANDLES, points.length)
  return points.map(([x, y], n) => {
    const off = Math.abs(n - handle)
    const away = Math.min(off, points.length - off) / step
    const share = away >= 1 ? 0 : (1 + Math.cos(Math.PI * away)) / 2
    return [x + share * by[0], y + share * by[1]]
  })
}

/** An hour of the clock as it is read: 3:46. */
export function clockText(hour: number): string {
  const minutes = ((Math.round(hour * 60) % 720) + 720) % 720
  return `${Math.floor(minutes / 60) || 12}:${String(minutes % 60).padStart(2, '0')}`
}

/** How fine a picture is by a known length in it: dots per inch. */
export const dpiOf = (first: Spot, second: Spot, mm: number): number =>
  (Math.hypot(second[0] - first[0], second[1] - first[1]) / mm) * 25.4

/** A plain length as typed, in mm; nothing where it takes more to read it, as a fraction does: the server reads all. */
export function mmOf(typed: string): number | undefined {
  const found = /^\s*(\d+(?:[.,]\d+)?)\s*(mm|cm|in|"|″)?\s*$/i.exec(typed)
  if (!found) return undefined
  const [, figure = '', unit = 'mm'] = found
  const size = { mm: 1, cm: 10 }[unit.toLowerCase()] ?? 25.4
  return Number(figure.replace(',', '.')) * size
}
