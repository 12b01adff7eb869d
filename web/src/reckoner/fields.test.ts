import { describe, expect, it } from 'vitest'
import { fieldName, figuresFor, shown } from './fields'

describe('fields of a calculation', () => {
  it('part a name from its unit', () => {
    expect(fieldName('valve_diameter_mm')).toEqual({ words: 'Valve diameter', unit: 'mm' })
    expect(fieldName('torque_n_m')).toEqual({ words: 'Torque', unit: 'N·m' })
    expect(fieldName('m3_h')).toEqual({ words: '', unit: 'm³/h' })
    expect(fieldName('cylinders')).toEqual({ words: 'Cylinders', unit: '' })
  })
  it('take what the screen that was left shows; the engine keeps its own bore', () => {
    const from = {
      of: 'tube',
      values: { bore_mm: 76, flow_cfm: undefined },
      engine: { bore_mm: 84, stroke_mm: 86 },
    }
    expect(figuresFor(['bore_mm', 'flow_cfm'], from)).toEqual({ bore_mm: 76 })
    expect(figuresFor(['bore_mm', 'stroke_mm', 'cylinders'], from)).toEqual({ bore_mm: 84, stroke_mm: 86 })
    expect(figuresFor(['bore_mm'], undefined)).toEqual({})
  })
  it('show results with four digits', () => {
    expect(shown(363.5891)).toBe('363.6')
    expect(shown(15915.49)).toBe('15915')
    expect(shown(-0.25)).toBe('−0.25')
    expect(shown(0.0001234)).toBe('1.234e−4')
    expect(shown(true)).toBe('yes')
  })
})
