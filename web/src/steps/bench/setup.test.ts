import { describe, expect, it } from 'vitest'
import { bodyOf, formOf, holds, toggled } from './setup'

describe('the set-up form', () => {
  it('puts a word into a list and takes it out again', () => {
    expect(toggled('', 'injectors')).toBe('injectors')
    expect(toggled('other runners', 'injectors')).toBe('other runners, injectors')
    expect(toggled('Injectors, 4 vacuum', 'injectors')).toBe('4 vacuum')
    expect(holds('Other runners,Injectors', 'injectors')).toBe(true)
    expect(holds('injector holes', 'injectors')).toBe(false)
  })

  it('sends figures as they were typed and what is empty as not said', () => {
    const form = { ...formOf(null, 'b1'), opening_percent: '75', clock_hours: '', temperature: '18,5' }
    const body = bodyOf(form, 'inH2O')
    expect(body.opening_percent).toBe('75')
    expect(body.clock_hours).toBeNull()
    expect(body.air_temperature_c).toBe('18,5')
    expect(body.bench_id).toBe('b1')
  })
})
