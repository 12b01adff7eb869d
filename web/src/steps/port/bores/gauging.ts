/** What is asked for at the gauge: one depth in its directions, or one size. */
import type { Schemas } from '@/api/client'

export interface Gauging {
  quantity: string
  /** Already known depth of a bore, empty for a new one. */
  place?: string
  barrel?: number
  figures: { label: string; hour?: number }[]
}

const USUAL_HOURS = [12, 3]
const across = (hour: number) => {
  const other = (hour + 5) % 12
  return `${hour}–${Math.floor(other) + 1 + (hour % 1)} o'clock, mm`
}

/** A bore at a depth, gauged in as many directions as before, else up and down, then side to side. */
export function gaugingOf(barrel: number, depth?: Schemas['DepthView']): Gauging {
  const hours = depth?.gauges.length ? depth.gauges.map((g) => g.hour) : USUAL_HOURS
  const every = [...new Set([...hours, ...USUAL_HOURS])].sort((a, b) => (a % 12) - (b % 12))
  return {
    quantity: 'across',
    barrel,
    ...(depth ? { place: `${depth.place_mm} mm` } : { place: '' }),
    figures: every.map((hour) => ({ hour, label: across(hour) })),
  }
}

/** One size of the part. */
export function sizing(detail: Schemas['DetailView']): Gauging {
  return {
    quantity: detail.quantity,
    place: detail.label,
    figures: [{ label: `${detail.label}, ${detail.unit}` }],
  }
}
