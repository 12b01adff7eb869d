import { describe, expect, it } from 'vitest'
import { due } from './rounds'

/** The runners in the order in which they are due, from the first on. */
function order(runners: number, times: number, kind: 'rounds' | 'runner'): number[] {
  const counts = Array<number>(runners).fill(0)
  const read: number[] = []
  let next = due(counts, 0, { times, order: kind })
  while (next !== undefined) {
    read.push(next)
    counts[next - 1] = (counts[next - 1] ?? 0) + 1
    next = due(counts, next, { times, order: kind })
  }
  return read
}

describe('rounds', () => {
  it('go round runner by runner', () => {
    expect(order(3, 3, 'rounds')).toEqual([1, 2, 3, 1, 2, 3, 1, 2, 3])
  })
  it('or stay at a runner until it has its readings', () => {
    expect(order(3, 2, 'runner')).toEqual([1, 1, 2, 2, 3, 3])
  })
  it('bring back what was struck out', () => {
    expect(due([2, 1, 2], 3, { times: 2, order: 'rounds' })).toBe(2)
    expect(due([2, 2, 1], 3, { times: 3, order: 'rounds' })).toBe(3)
  })
  it('end', () => {
    expect(due([3, 3], 2, { times: 3, order: 'rounds' })).toBeUndefined()
    expect(due([], 0, { times: 3, order: 'runner' })).toBeUndefined()
  })
})
