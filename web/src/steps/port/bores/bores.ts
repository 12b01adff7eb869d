/** What the drawing and the chart of a bore need, reckoned from the sheet. */
import type { Schemas } from '@/api/client'

type Sheet = Schemas['BarrelSheet']
type Depth = Schemas['DepthView']

/** A size of the part in mm or °, as it counts. */
export function sizeOf(sheet: Sheet, quantity: string): number | undefined {
  return sheet.details.find((d) => d.quantity === quantity)?.value ?? undefined
}

/** How long the bore is drawn [mm]: what was gauged, and room for the blade. */
export function drawnLength(sheet: Sheet, depths: readonly Depth[]): number {
  const last = Math.max(0, ...depths.map((d) => d.place_mm))
  const widest = Math.max(20, ...depths.map((d) => d.bore_mm))
  return Math.max(last, (sizeOf(sheet, 'plate_at') ?? 0) + widest * 0.2, 20)
}

/** Bore at a depth [mm], straight between those that were gauged. */
export function boreAt(depths: readonly Depth[], place: number): number {
  const first = depths[0]
  if (!first) return 0
  if (place <= first.place_mm) return first.bore_mm
  for (let n = 1; n < depths.length; n++) {
    const [a, b] = [depths[n - 1], depths[n]]
    if (a && b && place <= b.place_mm)
      return a.bore_mm + ((b.bore_mm - a.bore_mm) * (place - a.place_mm)) / (b.place_mm - a.place_mm)
  }
  return depths.at(-1)?.bore_mm ?? first.bore_mm
}

/** From where to where bores are charted [mm], in steps that a gauge can tell. */
export function boreRange(depths: readonly Depth[]): { low: number; high: number; step: number } {
  const all = depths.flatMap((d) => [
    d.bore.value,
    d.before.value,
    ...(d.wanted ? [d.wanted.value] : []),
    ...d.gauges.map((g) => g.mm.value),
  ])
  const low = Math.min(...all)
  const high = Math.max(...all)
  const step = [0.1, 0.2, 0.5, 1, 2, 5].find((s) => (high - low + s) / s <= 5) ?? 10
  return { low: Math.floor(low / step - 0.3) * step, high: Math.ceil(high / step + 0.3) * step, step }
}

/** The row below or above, round and round. */
export const around = (at: number, by: number, count: number): number =>
  count ? (at + by + count) % count : 0
