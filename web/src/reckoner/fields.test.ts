import { describe, expect, it } from 'vitest'
import { fieldName, shown } from './fields'

describe('fields of a calculation', () => {
  it('part a name from its unit', () => {
    expect(fieldName('valve_diameter_mm')).toEqual({ words: 'Valve diameter', unit: 'mm' })
    expect(fieldName('torque_n_m')).toEqual({ words: 'Torque', unit: 'N·m' })
    expect(fieldName('m3_h')).toEqual({ words: '', unit: 'm³/h' })
    expect(fieldName('cylinders')).toEqual({ words: 'Cylinders', unit: '' })
  })
  it('show results with four digits', () => {
    expect(shown(363.5891)).toBe('363.6')
    expect(shown(15915.49)).toBe('15915')
    expect(shown(-0.25)).toBe('−0.25')
    expect(shown(0.0001234)).toBe('1.234e−4')
    expect(shown(true)).toBe('yes')
  })
})
