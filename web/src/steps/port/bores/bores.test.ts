import { describe, expect, it } from 'vitest'
import type { Schemas } from '@/api/client'
import { around, boreAt, boreRange, drawnLength, sizeOf } from './bores'

const shown = (value: number) => ({ value, unit: 'mm', text: value.toFixed(2) })
const depth = (place_mm: number, mm: number, before = mm, wanted?: number) =>
  ({
    place_mm,
    bore_mm: mm,
    bore: shown(mm),
    before: shown(before),
    wanted: wanted == null ? null : shown(wanted),
    out_of_round: null,
    seals: false,
    gauges: [],
  }) as Schemas['DepthView']
const sheet = {
  details: [
    { quantity: 'plate_at', value: 40 },
    { quantity: 'shaft', value: null },
  ],
} as Schemas['BarrelSheet']

describe('a bore along its depth', () => {
  const depths = [depth(0, 65.4), depth(40, 65), depth(80, 64.4, 64.2, 65)]

  it('is straight between what was gauged, and ends as it was', () => {
    expect(boreAt(depths, 20)).toBeCloseTo(65.2)
    expect(boreAt(depths, 60)).toBeCloseTo(64.7)
    expect(boreAt(depths, -5)).toBe(65.4)
    expect(boreAt(depths, 95)).toBe(64.4)
    expect(boreAt([], 10)).toBe(0)
  })

  it('is charted from below its least to above its most, in few steps', () => {
    const { low, high, step } = boreRange(depths)
    expect(step).toBe(0.5)
    expect(low).toBeLessThan(64.2)
    expect(high).toBeGreaterThan(65.4)
    expect((high - low) / step).toBeLessThanOrEqual(6)
    expect(boreRange([depth(0, 65)]).step).toBe(0.1)
  })

  it('is drawn as long as it was gauged, and with room for its blade', () => {
    expect(drawnLength(sheet, depths)).toBe(80)
    expect(drawnLength(sheet, [depth(0, 65)])).toBeCloseTo(53)
  })

  it('knows a size that was measured and one that was not', () => {
    expect(sizeOf(sheet, 'plate_at')).toBe(40)
    expect(sizeOf(sheet, 'shaft')).toBeUndefined()
    expect(sizeOf(sheet, 'plate')).toBeUndefined()
  })

  it('is walked round and round', () => {
    expect(around(0, -1, 4)).toBe(3)
    expect(around(3, 1, 4)).toBe(0)
    expect(around(0, 1, 0)).toBe(0)
  })
})
