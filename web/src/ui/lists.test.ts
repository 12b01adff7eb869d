import { describe, expect, it } from 'vitest'
import { homes, lines, plugs } from './lists'

describe('lists typed into one field', () => {
  it('tells nothing said from none', () => {
    expect(lines('')).toBeNull()
    expect(lines('–')).toEqual([])
    expect(lines('purge, breather')).toEqual(['purge', 'breather'])
  })
  it('reads homes and plugs', () => {
    expect(homes('pressure sensor 12.7, injector 0.543 in, purge')).toEqual([
      { purpose: 'pressure sensor', bore_mm: '12.7' },
      { purpose: 'injector', bore_mm: '0.543 in' },
      { purpose: 'purge' },
    ])
    expect(plugs('throttle position / six-way / two tracks, opposed; meter')).toEqual([
      { purpose: 'throttle position', connector: 'six-way', signal: 'two tracks, opposed' },
      { purpose: 'meter', connector: null, signal: null },
    ])
  })
})
