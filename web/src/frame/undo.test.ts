import { beforeEach, expect, it, vi } from 'vitest'
import { Unreachable } from '@/api/client'
import { offerUndo, useUndo } from './undo'

const { last, failure, undo, forget } = useUndo()
beforeEach(() => {
  vi.useFakeTimers()
  forget()
})

it('brings back the last thing once', async () => {
  const run = vi.fn().mockResolvedValue(undefined)
  offerUndo('Build taken away', run)
  await undo()
  await undo()
  expect([run.mock.calls.length, last.value]).toEqual([1, undefined])
})

it('offers the latest alone, and no longer than it is in sight', () => {
  offerUndo('first', () => Promise.resolve())
  offerUndo('second', () => Promise.resolve())
  expect(last.value?.words).toBe('second')
  vi.advanceTimersByTime(60_000)
  expect(last.value).toBeUndefined()
})

it('says why it could not be brought back, and stays', async () => {
  offerUndo('Line taken away', () => Promise.reject(new Unreachable()))
  await undo()
  expect(failure.value).not.toBe('')
  expect(last.value?.words).toBe('Line taken away')
})
