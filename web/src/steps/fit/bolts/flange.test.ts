import { describe, expect, it } from 'vitest'
import { boxOf, placeLine, placesOf, tapped } from './flange'

describe('bolts of a flange', () => {
  const two = [
    { x_mm: -80, y_mm: -45 },
    { x_mm: 80, y_mm: 45 },
  ]
  it('are shown with room round them', () => {
    const box = boxOf(two)
    expect(box.x).toBeLessThan(-80)
    expect(box.x + box.width).toBeGreaterThan(80)
    expect(box.y + box.height).toBeGreaterThan(45)
    expect(boxOf([]).width).toBe(200)
  })
  it('are read and written alike', () => {
    expect(placeLine(two)).toBe('-80 -45, 80 45')
    expect(placesOf('-80 -45, 80 45')).toEqual(two)
    expect(placesOf('80, x y')).toEqual([])
  })
  it('go where they are tapped again', () => {
    expect(tapped(two, { x_mm: 0, y_mm: 0 })).toHaveLength(3)
    expect(tapped(two, { x_mm: 78, y_mm: 44 })).toEqual([two[0]])
  })
})
