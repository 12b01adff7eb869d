import { describe, expect, it } from 'vitest'
import { following, shapeOf } from './plan'

const task = (key: string, state = 'open') => ({ key, state })

describe('what follows', () => {
  const tasks = [task('a', 'done'), task('b'), task('c'), task('d'), task('e'), task('sign off')]
  it('begins with the one that is on and ends with the sign-off', () => {
    expect(following(tasks, 'b', 3).map((t) => t.key)).toEqual(['b', 'c', 'sign off'])
  })
  it('shows all where there is room', () => {
    expect(following(tasks, 'd', 9).map((t) => t.key)).toEqual(['d', 'e', 'sign off'])
  })
  it('keeps a task that is done in sight while it is chosen', () => {
    expect(following(tasks, 'a', 2).map((t) => t.key)).toEqual(['a', 'sign off'])
  })
  it('begins at the first open one where nothing is on', () => {
    expect(following(tasks, null, 2).map((t) => t.key)).toEqual(['b', 'sign off'])
  })
})

describe('the form of a strand', () => {
  it('is its verb', () => {
    expect(['transfer', 'ream', 'loop', 'new', 'find out'].map(shapeOf)).toEqual([
      'straight',
      'kink',
      'bar',
      'gap',
      'asked',
    ])
  })
})
