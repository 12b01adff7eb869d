import { describe, expect, it } from 'vitest'
import { chordOf } from './answers'

const pressed = (code: string, more: Partial<KeyboardEvent> = {}) => ({
  code,
  altKey: false,
  ctrlKey: false,
  metaKey: false,
  ...more,
})

describe('an answer', () => {
  it('is Alt and a digit, of whichever row', () => {
    expect(chordOf(pressed('Digit2', { altKey: true }))).toBe(2)
    expect(chordOf(pressed('Numpad3', { altKey: true }))).toBe(3)
  })
  it('is never a bare digit, a letter, or a chord of the browser', () => {
    expect(chordOf(pressed('Digit2'))).toBeUndefined()
    expect(chordOf(pressed('KeyA', { altKey: true }))).toBeUndefined()
    expect(chordOf(pressed('Digit2', { altKey: true, ctrlKey: true }))).toBeUndefined()
  })
})
