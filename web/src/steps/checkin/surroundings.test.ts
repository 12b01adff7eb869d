import { describe, expect, it } from 'vitest'
import { readSurroundings, writtenSurroundings } from './surroundings'

describe('what the part has to fit', () => {
  it('comes back as it was sent, figures as they were typed', () => {
    const kept = {
      bonnet_height_mm: 168,
      front_length_mm: null,
      heat_c: null,
      accessories: ['alternator'],
      ports: ['purge'],
      homes: [{ purpose: 'injector', bore_mm: 13.8 }],
      plugs: [{ purpose: 'throttle position', connector: 'six-way', signal: null }],
      welding: true,
      head_flange: 'F5',
      port_pitch_mm: 91,
      bank_angle_deg: null,
      brakes: 'vacuum' as const,
      noise: null,
      rules: [{ kind: 'throttle_bore' as const, limit_mm: 71.12, words: 'bore at most 2.8 in' }],
    }
    const typed = { 'surroundings.rules.0.limit_mm': '2.8 in' }
    const form = readSurroundings(kept, typed)
    expect(form.rules.filter((rule) => rule.on).map((rule) => rule.limit)).toEqual(['2.8 in'])
    const sent = writtenSurroundings(form)
    expect(sent.rules).toEqual([{ kind: 'throttle_bore', limit_mm: '2.8 in', words: 'bore at most 2.8 in' }])
    expect(sent).toMatchObject({ head_flange: 'F5', brakes: 'vacuum', noise: null, ports: ['purge'] })
    expect(sent.homes).toEqual([{ purpose: 'injector', bore_mm: '13.8' }])
  })
  it('asks for nothing where nothing was said', () => {
    const sent = writtenSurroundings(readSurroundings(undefined, undefined))
    expect(sent).toMatchObject({ rules: [], brakes: null, head_flange: null, ports: [] })
  })
})
