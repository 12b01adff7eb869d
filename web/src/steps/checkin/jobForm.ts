/** What was said of a job, as text fields hold it, and back. */
import type { Schemas } from '@/api/client'
import { asTyped, sent } from '@/ui/figures'
import { readSurroundings, writtenSurroundings } from './surroundings'

export type JobForm = ReturnType<typeof readJob>

export const JOB_WORDS: Record<string, string> = {
  title: 'name',
  band_low_rpm: 'band from',
  band_high_rpm: 'band to',
  due_on: 'due',
  standard: 'correction',
  power_wanted_kw: 'power wanted, kW',
}

/** By its head, and with the goal in figures and what the vehicle asks of a part. */
export function readJob(j: Schemas['JobView'] | undefined, s: Schemas['CheckinSheet'] | undefined) {
  return {
    title: j?.title ?? '',
    customer: j?.customer ?? '',
    use: j?.use ?? '',
    due: j?.due_on ?? '',
    standard: j?.standard ?? 'sae_j1349',
    note: j?.note ?? '',
    power:
      s?.typed['power_wanted'] ?? (s?.power_wanted ? `${s.power_wanted.text} ${s.power_wanted.unit}` : ''),
    low: s?.typed['band_low_rpm'] ?? j?.band_low_rpm?.toString() ?? '',
    high: s?.typed['band_high_rpm'] ?? j?.band_high_rpm?.toString() ?? '',
    budget: asTyped(s?.typed, 'budget', s?.budget),
    around: readSurroundings(s?.surroundings, s?.typed),
  }
}

export const jobBody = (f: JobForm) => ({
  title: f.title,
  customer: f.customer || null,
  use: f.use || null,
  band_low_rpm: sent(f.low),
  band_high_rpm: sent(f.high),
  due_on: f.due || null,
  standard: f.standard,
  note: f.note,
  power_wanted: f.power || null,
  budget: sent(f.budget),
  surroundings: writtenSurroundings(f.around),
})
