import { describe, expect, it } from 'vitest'
import { bends, claimed, joint, jointForm, sections } from './form'

describe('what is said of a part', () => {
  it('reads a joint with its bolts and back', () => {
    const spec = joint({ opening: '68', bolts: '4, 66 × 62', outside: '' })
    expect(spec).toEqual({
      opening_mm: 68,
      bolt_count: 4,
      bolt_across_mm: 66,
      bolt_along_mm: 62,
      outside_mm: null,
    })
    expect(jointForm(spec)).toEqual({ opening: '68', bolts: '4, 66 × 62', outside: '' })
    expect(joint({ opening: '', bolts: '', outside: '' })).toBeNull()
    expect(joint({ opening: '', bolts: '3', outside: '' })?.bolt_count).toBe(3)
  })
  it('reads bends and sections', () => {
    expect(bends('45 at 1.5; 30; long')).toEqual([
      { angle_deg: 45, radius_over_bore: 1.5 },
      { angle_deg: 30, radius_over_bore: 0 },
    ])
    expect(sections('120 of 46; 190 of 42 × 38')).toEqual([
      { length_mm: 120, across_mm: 46, height_mm: null },
      { length_mm: 190, across_mm: 42, height_mm: 38 },
    ])
    expect(claimed('3 % more, with a tune; lighter')).toEqual(['3 % more, with a tune', 'lighter'])
  })
})
