import { describe, expect, it } from 'vitest'
import { pieceLines, piecesOf, recipeRounds, roundLines, zoneLines, zonesOf } from './plan'

describe('zones as a line', () => {
  it('are read and written alike', () => {
    const line = 'land 0-8, boss 120-140 runner 3'
    const zones = zonesOf(line)
    expect(zones).toEqual([
      { kind: 'land', from_mm: '0', to_mm: '8', runner: null },
      { kind: 'boss', from_mm: '120', to_mm: '140', runner: 3 },
    ])
    expect(zoneLines(zones as never)).toBe(line)
  })
  it('that can’t be read are sent on, to be refused by name', () => {
    expect(zonesOf('somewhere')[0]?.kind).toBe('somewhere')
    expect(zonesOf('  ')).toEqual([])
  })
})

describe('pieces as a line', () => {
  it('are read and written alike', () => {
    const line = 'upper half to 120, lower half to 310'
    const pieces = piecesOf(line)
    expect(pieces).toEqual([
      { role: 'upper half', to_mm: '120' },
      { role: 'lower half', to_mm: '310' },
    ])
    expect(pieceLines(pieces as never)).toBe(line)
  })
  it('that can’t be read are sent on, to be refused by name', () => {
    expect(piecesOf('upper half')[0]).toEqual({ role: 'upper half', to_mm: 0 })
  })
})

describe('rounds as a line', () => {
  it('have their grit, times and minutes', () => {
    expect(recipeRounds('carbide 7.5 min, 80 grit × 3, P120 x 2, CAMI 320 grit')).toEqual([
      { name: 'carbide', times: 1, minutes: '7.5', grit: null, system: 'P' },
      { name: '80 grit', times: 3, minutes: null, grit: 80, system: 'P' },
      { name: 'P120', times: 2, minutes: null, grit: 120, system: 'P' },
      { name: 'CAMI 320 grit', times: 1, minutes: null, grit: 320, system: 'CAMI' },
    ])
  })
  it('are written as they are read', () => {
    const line = 'carbide 7.5 min, 80 grit × 3'
    expect(roundLines(recipeRounds(line) as never)).toBe(line)
  })
})
