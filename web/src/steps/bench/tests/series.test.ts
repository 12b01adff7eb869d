import { describe, expect, it } from 'vitest'
import { seriesFor } from './series'

const states = [
  { id: 'a', label: 'as received', own: true },
  { id: 'b', label: 'stage 2', own: true },
]

describe('series of a test', () => {
  it('compares the states in a sweep, and takes the last one elsewhere', () => {
    expect(seriesFor('opening', states).map((s) => s.label)).toEqual(['as received', 'stage 2'])
    expect(seriesFor('copy', states).map((s) => s.part_state_id)).toEqual(['b', 'b'])
    expect(seriesFor('lift', [])).toEqual([])
  })

  it('leaves the states of other parts to be chosen', () => {
    const more = [...states, { id: 'c', label: 'Sheet manifold, as it came', own: false }]
    expect(seriesFor('opening', more).map((s) => s.part_state_id)).toEqual(['a', 'b'])
    expect(seriesFor('copy', more)[0]!.part_state_id).toBe('b')
    expect(seriesFor('opening', more.slice(2)).map((s) => s.part_state_id)).toEqual(['c'])
  })

  it('hands out changes of their own', () => {
    const one = seriesFor('configuration', states)
    one[0]!.changes['throttle'] = 'ported'
    expect(seriesFor('configuration', states)[0]!.changes['throttle']).toBe('off')
  })
})
