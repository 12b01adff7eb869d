import { describe, expect, it } from 'vitest'
import { apart, dashOf, within } from './designLines'

describe('names at the ends of curves', () => {
  it('stand apart, in the order of their ends, near to them', () => {
    const found = apart(
      [
        { id: 'b', at: 102 },
        { id: 'a', at: 100 },
        { id: 'c', at: 160 },
      ],
      16,
    )
    expect(found.map((one) => one.id)).toEqual(['a', 'b', 'c'])
    expect(found[1]!.to - found[0]!.to).toBeCloseTo(16, 1)
    expect((found[0]!.to + found[1]!.to) / 2).toBeCloseTo(101, 1)
    expect(found[2]!.to).toBe(160)
  })
  it('of ten together still do not touch', () => {
    const found = apart(
      Array.from({ length: 10 }, (_, i) => ({ id: String(i), at: 100 })),
      16,
    )
    for (let i = 1; i < found.length; i++) expect(found[i]!.to - found[i - 1]!.to).toBeGreaterThan(12)
  })
})

describe('the part of a curve inside a band', () => {
  const [speeds, values] = [
    [3000, 4000, 5000],
    [0, 10, 20],
  ]
  it('has its values at the ends', () => {
    expect(within(speeds, values, [3500, 4500])).toEqual([
      [3500, 5],
      [4000, 10],
      [4500, 15],
    ])
  })
  it('does not go beyond the curve', () => {
    expect(within(speeds, values, [2000, 9000])).toEqual([
      [3000, 0],
      [4000, 10],
      [5000, 20],
    ])
    expect(within(speeds, values, [6000, 7000])).toEqual([])
  })
})

it('the first throttle is drawn full', () => {
  expect([dashOf(0), dashOf(1)]).toEqual([undefined, '7 4'])
})
