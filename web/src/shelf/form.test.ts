import { describe, expect, it } from 'vitest'
import { bends, claimed, joint, jointForm, sections } from './form'

describe('what is said of a part', () => {
  it('sends a joint as it was typed, bolts with their spacing', () => {
    expect(joint({ opening: '2.68 in', bolts: '4, 66 × 62', outside: '' })).toEqual({
      opening_mm: '2.68 in',
      bolt_count: '4',
      bolt_across_mm: '66',
      bolt_along_mm: '62',
      outside_mm: null,
    })
    expect(joint({ opening: '', bolts: '', outside: '' })).toBeNull()
    expect(joint({ opening: '', bolts: '3', outside: '' })?.bolt_count).toBe('3')
    expect(joint({ opening: '', bolts: '4, 66', outside: '' })?.bolt_along_mm).toBe('66')
  })
  it('sends what it does not understand whole, to be refused by its name', () => {
    expect(joint({ opening: '', bolts: '4; 66 × 62, M6', outside: '' })?.bolt_along_mm).toBe('62, M6')
    expect(bends('long')).toEqual([{ angle_deg: 'long', radius_over_bore: 0 }])
    expect(sections('120')).toEqual([{ length_mm: '120', across_mm: '', height_mm: null }])
  })
  it('shows a joint as it was typed', () => {
    const kept = { opening_mm: 68.072, bolt_count: 4, bolt_across_mm: 66, bolt_along_mm: 62 }
    const typed = { 'features.inlet.opening_mm': '2.68 in' }
    expect(jointForm(kept, typed, 'features.inlet')).toEqual({
      opening: '2.68 in',
      bolts: '4, 66 × 62',
      outside: '',
    })
  })
  it('parts bends, sections and claims', () => {
    expect(bends('45 at 1.5; 30')).toEqual([
      { angle_deg: '45', radius_over_bore: '1.5' },
      { angle_deg: '30', radius_over_bore: 0 },
    ])
    expect(sections('120 of 46; 190 of 42 × 38')).toEqual([
      { length_mm: '120', across_mm: '46', height_mm: null },
      { length_mm: '190', across_mm: '42', height_mm: '38' },
    ])
    expect(claimed('3 % more, with a tune; lighter')).toEqual(['3 % more, with a tune', 'lighter'])
  })
})
