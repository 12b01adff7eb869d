import { describe, expect, it } from 'vitest'
import { day, dayAndTime } from './words'

describe('dates as they are said in the shop', () => {
  it('says them as the browser does in this country', () => {
    for (let month = 0; month < 12; month++) {
      const at = new Date(2026, month, 3 + month, month, 5 * month)
      const said = { day: 'numeric', month: 'short' } as const
      expect(day(at.toISOString())).toBe(at.toLocaleDateString('en-GB', said))
      expect(dayAndTime(at.toISOString())).toBe(
        at.toLocaleString('en-GB', { ...said, hour: '2-digit', minute: '2-digit' }),
      )
    }
  })

  it('says nothing of no date', () => {
    expect(day(null)).toBe('')
  })
})
