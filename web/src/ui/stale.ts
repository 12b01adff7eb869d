/** Somebody else changed what is being edited: where the two versions differ, and the two ways on. */
import type { Ref } from 'vue'
import type { Problem } from '@/api/client'

export interface Difference {
  name: string
  theirs: string
  yours: string
}

/** What to do with a stale edit: keep what was typed, or take what is there now. */
export interface StaleWays {
  mine: () => void
  theirs: () => void
}

/** Not of what is said, but of how it is kept. */
const APART = ['version', 'typed']

/** Where the two versions of a refused edit differ, inside of what is nested too. */
export function differences(problem: Problem): Difference[] {
  const [theirs, yours] = [flat(problem.current ?? {}), flat(problem.yours ?? {})]
  const names = [...new Set([...theirs.keys(), ...yours.keys()])]
  return names
    .map((name) => ({ name, theirs: theirs.get(name) ?? '–', yours: yours.get(name) ?? '–' }))
    .filter((one) => one.theirs !== one.yours)
}

function flat(value: Record<string, unknown>, before = ''): Map<string, string> {
  const found = new Map<string, string>()
  for (const [name, one] of Object.entries(value)) {
    if (!before && APART.includes(name)) continue
    const path = before ? `${before}.${name}` : name
    if (one !== null && typeof one === 'object')
      for (const [inner, text] of flat(one as Record<string, unknown>, path)) found.set(inner, text)
    else if (one !== null && one !== '') found.set(path, String(one))
  }
  return found
}

/** The name of a field as one reads it, where no better word is given. */
export const plainName = (path: string): string =>
  path.replace(/_(mm|kpa|deg|c|l|cfm|percent|kg|kw|rpm)\b/g, '').replace(/[._]/g, ' ')

/** The ways on of a form: `version` is what its edit is made on, `take` fills it from what is there now. */
export function staleWays(
  problem: Ref<Problem | undefined>,
  version: Ref<number>,
  keep: () => unknown,
  take: () => unknown,
): StaleWays {
  return {
    mine: () => {
      version.value = Number(problem.value?.current?.['version'])
      void keep()
    },
    theirs: () => {
      problem.value = undefined
      void take()
    },
  }
}
