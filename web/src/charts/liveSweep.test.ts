import { describe, expect, it } from 'vitest'
import { aheadBy, driven, standing } from './liveSweep'

describe('a sweep as it forms', () => {
  it('leaves out what does not rise', () => {
    const points = [2600, 2600, 2590, 2700, 2690, 3000, 2800].map((n) => [n, 50, 200])
    expect(driven(points).map((p) => p[0])).toEqual([2600, 2700, 3000])
  })
  it('is ahead of the curve at its own speed', () => {
    expect(aheadBy([3000, 4000], [100, 120], 3500, 115)).toBeCloseTo(5)
    expect(aheadBy([3000, 4000], [100, 120], 3000, 99)).toBeCloseTo(-1)
  })
  it('stands at the mean of its last samples', () => {
    const points = Array.from({ length: 20 }, (_, i) => [3000 + 10 * i, 100 + i])
    expect(standing(points, 1)).toEqual({ speed: 3155, value: 115.5 })
    expect(standing([], 1)).toBeUndefined()
  })
  it('is held against nothing where nothing was pulled', () => {
    expect(aheadBy([3000, 4000], [100, 120], 2900, 99)).toBeUndefined()
    expect(aheadBy([3000, 4000], [100, 120], 4001, 99)).toBeUndefined()
  })
})
