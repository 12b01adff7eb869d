import { describe, expect, it } from 'vitest'
import { figure, pasted, whole } from './figures'

describe('numbers as typed', () => {
  it('takes a decimal comma', () => expect(figure('18,5')).toBe(18.5))
  it('takes nothing for nothing', () => expect(figure(' ')).toBeNull())
  it('refuses words', () => expect(figure('six')).toBeNull())
  it('refuses half a runner', () => expect(whole('5.5')).toBeNull())
})

describe('figures pasted', () => {
  it('reads a column of a spreadsheet', () =>
    expect(pasted('201.6\r\n199,1\n\n191.4\n')).toEqual(['201.6', '199,1', '191.4']))
  it('reads a row', () => expect(pasted('201.6\t199.1')).toEqual(['201.6', '199.1']))
  it('leaves a single figure whole', () => expect(pasted('364 m3/h')).toEqual(['364 m3/h']))
})
