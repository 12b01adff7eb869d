import { expect, it } from 'vitest'
import { bandBetween } from './brush'

const at = (place: number) => 2000 + 10 * place

it('chooses a band in steps of 50 rpm, whichever way it is drawn', () => {
  expect(bandBetween(at, 103, 254, [2000, 7000])).toEqual([3050, 4550])
  expect(bandBetween(at, 254, 103, [2000, 7000])).toEqual([3050, 4550])
})

it('stays within what was pulled, and takes no click for a band', () => {
  expect(bandBetween(at, -50, 900, [2400, 7000])).toEqual([2400, 7000])
  expect(bandBetween(at, 100, 112, [2000, 7000])).toBeUndefined()
})
