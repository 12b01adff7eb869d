import { expect, it } from 'vitest'
import {
  areaOf,
  clockText,
  dpiOf,
  handlesOf,
  inside,
  middleOf,
  mmOf,
  moved,
  pathOf,
  smallestAt,
  type Spot,
} from './outline'

const square = (size: number, x = 0, y = 0): Spot[] => [
  [x, y],
  [x + size, y],
  [x + size, y + size],
  [x, y + size],
]
const circle = (radius: number, count: number): Spot[] =>
  Array.from({ length: count }, (_, n) => {
    const angle = (n / count) * 2 * Math.PI
    return [radius * Math.cos(angle), radius * Math.sin(angle)]
  })

it('knows what lies inside, also in a corner that turns in', () => {
  const l: Spot[] = [
    [0, 0],
    [10, 0],
    [10, 4],
    [4, 4],
    [4, 10],
    [0, 10],
  ]
  expect(inside([2, 8], l)).toBe(true)
  expect(inside([8, 2], l)).toBe(true)
  expect(inside([8, 8], l)).toBe(false)
})

it('measures a square and its middle', () => {
  expect(areaOf(square(10))).toBe(100)
  expect(areaOf(square(10).reverse())).toBe(100)
  expect(middleOf(square(10, 5, 5))).toEqual([10, 10])
})

it('takes the opening within the flange, and none beside it', () => {
  const all = [square(100), square(20, 40, 40)].map((points) => ({ points, area: areaOf(points) }))
  expect(smallestAt([50, 50], all)?.area).toBe(400)
  expect(smallestAt([10, 10], all)?.area).toBe(10000)
  expect(smallestAt([200, 10], all)).toBeUndefined()
})

it('moves a handle with what lies beside it, and nothing beyond its neighbours', () => {
  const points = circle(100, 360)
  const handles = handlesOf(points)
  expect(handles).toHaveLength(36)
  const at = handles[3] ?? 0
  const after = moved(points, at, [2, 0])
  expect((after[at]?.[0] ?? 0) - (points[at]?.[0] ?? 0)).toBeCloseTo(2)
  expect((after[at + 5]?.[0] ?? 0) - (points[at + 5]?.[0] ?? 0)).toBeCloseTo(1)
  expect(after[at + 10]).toEqual(points[at + 10])
  expect(after[at - 10]).toEqual(points[at - 10])
})

it('moves the first handle across the end of the list', () => {
  const points = circle(100, 360)
  expect((moved(points, 0, [2, 0])[355]?.[0] ?? 0) - (points[355]?.[0] ?? 0)).toBeCloseTo(1)
})

it('draws y upwards where an outline has it so', () => {
  expect(pathOf([[1, 2]], true)).toBe('M1.00,-2.00Z')
  expect(pathOf([])).toBe('')
})

it('reads the clock as people do', () => {
  expect([3.7667, 0, 12, 11.999, 0.5].map(clockText)).toEqual(['3:46', '12:00', '12:00', '12:00', '12:30'])
})

it('says how fine a scan is by its ruler', () => {
  expect(dpiOf([0, 0], [1181.1, 0], 50)).toBeCloseTo(600, 1)
})

it('reads a plain length, and leaves to the server what takes more', () => {
  expect(['100', '100 mm', '10 cm', '4 in', '2,5 "'].map(mmOf)).toEqual([100, 100, 100, 101.6, 63.5])
  expect(['1 5/8 in', 'a hand', ''].map(mmOf)).toEqual([undefined, undefined, undefined])
})
