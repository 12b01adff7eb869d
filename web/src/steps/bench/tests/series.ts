/** The series that a kind of test usually has; each can be renamed, changed, left out or added to. */
import type { Schemas } from '@/api/client'

export interface SeriesForm {
  label: string
  part_state_id: string
  changes: Record<string, string>
}
type State = Schemas['StateChoice']

const USUAL: Record<string, { label: string; changes: Record<string, string> }[]> = {
  configuration: [
    { label: 'no radius', changes: { entry_radius: 'none', throttle: 'off' } },
    { label: 'with radius', changes: { entry_radius: 'clay', throttle: 'off' } },
    { label: 'throttle as sold', changes: { entry_radius: 'clay', throttle: 'as_sold' } },
    { label: 'throttle ported', changes: { entry_radius: 'clay', throttle: 'ported' } },
  ],
  lift: [
    { label: 'head only', changes: { mounted: 'head' } },
    { label: 'with runner', changes: { mounted: 'runner, head' } },
  ],
  copy: [
    { label: 'original', changes: {} },
    { label: 'copy', changes: {} },
  ],
  pitot: [{ label: 'as is', changes: {} }],
  swirl: [{ label: 'as is', changes: {} }],
}

/** Series for a kind on a part with these states: those of the job's own part. A sweep compares them, where there are
 * several. */
export function seriesFor(kind: string, states: State[]): SeriesForm[] {
  const own = states.filter((s) => s.own)
  const usual = own.length ? own : states
  const last = usual.at(-1)
  if (!last) return []
  if (kind === 'opening')
    return usual.map((s) => ({ label: short(s.label), part_state_id: s.id, changes: {} }))
  return (USUAL[kind] ?? []).map((one) => ({ ...one, changes: { ...one.changes }, part_state_id: last.id }))
}

/** A state's name without what was done to it. */
const short = (label: string) => label.split(',')[0] ?? label
