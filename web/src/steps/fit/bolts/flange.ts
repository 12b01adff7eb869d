/** A flange as it is drawn: where its bolts lie on the plate, and back from a tap to millimetres. */

export interface Place {
  x_mm: number
  y_mm: number
}
export interface Box {
  x: number
  y: number
  width: number
  height: number
}

const ROOM = 24 // mm round the outermost bolts
const LEAST = { width: 200, height: 110 } // mm: a plate without bolts

/** The part of the flange that is shown [mm]: all bolts with room round them. */
export function boxOf(places: readonly Place[]): Box {
  if (!places.length) return { x: -LEAST.width / 2, y: -LEAST.height / 2, ...LEAST }
  const xs = places.map((p) => p.x_mm)
  const ys = places.map((p) => p.y_mm)
  const width = Math.max(LEAST.width, Math.max(...xs) - Math.min(...xs) + 2 * ROOM)
  const height = Math.max(LEAST.height, Math.max(...ys) - Math.min(...ys) + 2 * ROOM)
  return {
    x: (Math.max(...xs) + Math.min(...xs) - width) / 2,
    y: (Math.max(...ys) + Math.min(...ys) - height) / 2,
    width,
    height,
  }
}

/** "-80 -45, -40 -45": places as a line to type into, and back; what can't be read is sent on and refused by name. */
export const placeLine = (places: readonly Place[]): string =>
  places.map((p) => `${p.x_mm} ${p.y_mm}`).join(', ')

export const placesOf = (line: string): Place[] =>
  line
    .split(',')
    .map((one) => one.trim().split(/\s+/).map(Number))
    .filter((pair) => pair.length === 2 && pair.every(Number.isFinite))
    .map(([x_mm = 0, y_mm = 0]) => ({ x_mm, y_mm }))

/** A place that is tapped again goes; another one comes. Within 6 mm it is the same. */
export function tapped(places: readonly Place[], at: Place): Place[] {
  const near = places.findIndex((p) => Math.hypot(p.x_mm - at.x_mm, p.y_mm - at.y_mm) < 6)
  return near >= 0 ? places.toSpliced(near, 1) : [...places, at]
}
