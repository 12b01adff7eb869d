/** What a candidate is weighed by, and how far one can be signed for. */
import type { Schemas } from '@/api/client'

export type Criterion = Schemas['CriterionView']
export type Weights = Record<string, number>
export const MOST_WEIGHT = 9

export const SUITS: Record<Schemas['Suits'], { words: string; tone: '' | 'doubt' | 'harm' }> = {
  fits: { words: 'fits', tone: '' },
  unchecked: { words: 'not all checked', tone: 'doubt' },
  fitted_now: { words: 'fitted now', tone: '' },
  too_small: { words: 'too small to show', tone: '' },
  not_known: { words: 'gain not known', tone: 'doubt' },
  no_gain: { words: 'no gain', tone: '' },
  worse: { words: 'worse', tone: 'doubt' },
  ruled_out: { words: 'ruled out', tone: 'harm' },
}

/** Air gained between two bounds, as it is said. */
export function spanText(low: number | null | undefined, high: number | null | undefined): string {
  if (low == null || high == null) return 'not known'
  const [from, to] = [low, high].map((v) => `${v < 0 ? '−' : ''}${Math.abs(v).toFixed(1)}`)
  return from === to ? `${to} %` : `${from} to ${to} %`
}
