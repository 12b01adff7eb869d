/** What is said of the daily copy, and whether it is a doubt. */
import type { Schemas } from '@/api/client'

const LATE_MS = 2 * 24 * 3600 * 1000

export function copyWords(
  daily: boolean,
  last: Schemas['LastCopy'],
  now: Date,
  told: (iso: string) => string,
): { text: string; doubt: boolean } {
  const since = last.made_at ? `the last is of ${told(last.made_at)}` : 'there is none yet'
  if (!daily) return { text: `No copy is made of what is kept here; ${since}.`, doubt: false }
  if (last.problem) return { text: `The daily copy failed; ${since}. ${last.problem}`, doubt: true }
  if (!last.made_at) return { text: 'The first daily copy is made two minutes after a start.', doubt: false }
  if (now.getTime() - new Date(last.made_at).getTime() > LATE_MS)
    return { text: `No daily copy was made of late; ${since}.`, doubt: true }
  const size = (last.size_bytes / 1e6).toFixed(1)
  return { text: `Last copied ${told(last.made_at)}, ${size} MB.`, doubt: false }
}
