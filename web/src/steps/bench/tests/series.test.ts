import { describe, expect, it } from 'vitest'
import { seriesFor } from './series'

const states = [
  { id: 'a', label: 'as received' },
  { id: 'b', label: 'stage 2' },
]

describe('series of a test', () => {
  it('compares the states in a sweep, and takes the last one elsewhere', () => {
    expect(seriesFor('opening', states).map((s) => s.label)).toEqual(['as received', 'stage 2'])
    expect(seriesFor('copy', states).map((s) => s.part_state_id)).toEqual(['b', 'b'])
    expect(seriesFor('lift', [])).toEqual([])
  })

  it('hands out changes of their own', () => {
    const one = seriesFor('configuration', states)
    one[0]!.changes['throttle'] = 'ported'
    expect(seriesFor('configuration', states)[0]!.changes['throttle']).toBe('off')
  })
})
