import { describe, expect, it } from 'vitest'
import { boxOf, onClock, wallAt, watch } from './section'

const cell = (shape: string, sizes_mm: number[], now_mm2 = 1000) => ({ shape, sizes_mm, now_mm2 }) as never

describe('a section as it is drawn', () => {
  it('has twelve up and three to the right', () => {
    expect(onClock(12, 10).y).toBeCloseTo(-10)
    expect(onClock(3, 10).x).toBeCloseTo(10)
    expect(onClock(6, 10).y).toBeCloseTo(10)
  })

  it('lies with its longer side across, but a rectangle as it was typed', () => {
    expect(boxOf(cell('oval', [38, 44]))).toEqual({ width: 44, height: 38, corner: 19 })
    expect(boxOf(cell('rectangle', [38, 44, 6]))).toEqual({ width: 38, height: 44, corner: 6 })
    expect(boxOf(cell('round', [42]))).toEqual({ width: 42, height: 42, corner: 21 })
  })

  it('is a circle of the same area where that alone is known', () => {
    expect(boxOf(cell('area', [], Math.PI * 100)).width).toBeCloseTo(20)
  })
})

describe('the wall round the clock', () => {
  const walls = [
    { hour: 12, mm: 3.2 },
    { hour: 6, mm: 4.6 },
  ]
  it('is straight between what was gauged, round twelve too', () => {
    expect(wallAt(walls, 3)).toBeCloseTo(3.9)
    expect(wallAt(walls, 9)).toBeCloseTo(3.9)
    expect(wallAt(walls, 12)).toBeCloseTo(3.2)
    expect(wallAt(walls, 11)).toBeCloseTo(3.433)
  })
  it('is the one that was gauged where only one was, and nothing without any', () => {
    expect(wallAt([{ hour: 4, mm: 5 }], 9)).toBe(5)
    expect(wallAt([], 9)).toBeUndefined()
  })
})

it('tells seconds as a watch', () => {
  expect([watch(0), watch(252.9), watch(3725)]).toEqual(['0:00', '4:12', '1:02:05'])
})
