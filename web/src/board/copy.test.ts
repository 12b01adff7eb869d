import { expect, it } from 'vitest'
import { copyWords } from './copy'

const NOW = new Date('2026-03-05T12:00:00Z')
const told = (iso: string) => iso.slice(0, 10)
const copy = (made_at: string | null, problem = '') => ({ made_at, size_bytes: 1_340_000, problem })

it.each([
  [true, copy('2026-03-05T04:00:00Z'), 'Last copied 2026-03-05, 1.3 MB.', false],
  [true, copy(null), 'The first daily copy is made two minutes after a start.', false],
  [true, copy('2026-03-02T04:00:00Z'), 'No daily copy was made of late; the last is of 2026-03-02.', true],
  [
    true,
    copy('2026-03-05T04:00:00Z', 'No room.'),
    'The daily copy failed; the last is of 2026-03-05. No room.',
    true,
  ],
  [true, copy(null, 'No room.'), 'The daily copy failed; there is none yet. No room.', true],
  [false, copy(null), 'No copy is made of what is kept here; there is none yet.', false],
])('says how the daily copy goes', (daily, last, text, doubt) => {
  expect(copyWords(daily, last, NOW, told)).toEqual({ text, doubt })
})
