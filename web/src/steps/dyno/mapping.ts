/** Dropped dyno files, from what was understood of them to pulls: columns mapped once, alike files follow. */
import { ref } from 'vue'
import { api, asBytes, newId, problemIn, told, type Problem, type Schemas } from '@/api/client'
import { whole } from '@/ui/figures'
import { factsOf, formOf, parted, type FactsForm, type PullView } from './pullFacts'

export type Preview = Schemas['PullPreview']
export type ColumnMap = Schemas['ColumnMap']

export interface Pending {
  id: string
  name: string
  preview?: Preview
  mapping: ColumnMap
  /** First and last row that count, from 1, as texts. */
  first: string
  last: string
  facts: FactsForm
  accepted: string[]
  trust: 'check' | 'torque' | 'power'
  /** The pull that this is mapped anew from. */
  replaces?: string
  problem?: Problem
}

const EMPTY: ColumnMap = {
  speed_column: 0,
  torque_column: null,
  torque_unit: '',
  power_column: null,
  power_unit: '',
  speed_unit: '',
  rpm_at_100: null,
}

/** Letters and digits alone: "stage_2-throttle70.csv" names "stage 2, throttle 70". */
const plain = (name: string): string => name.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '')

/** Which build a file is of, by its name, else stock first. */
export function guessBuild(name: string, builds: Schemas['DesignView'][], taken: string[]): string {
  const stock = builds.find((b) => b.is_stock) ?? builds[0]
  const others = builds.filter((b) => b !== stock)
  const named = others
    .filter((b) => plain(name).includes(plain(b.name)))
    .toSorted((a, b) => plain(b.name).length - plain(a.name).length)[0]
  if (named) return named.build_id
  if (/stock|before|series/i.test(name) && stock) return stock.build_id
  const stockDone = stock && (stock.pulls > 0 || taken.includes(stock.build_id))
  return (stockDone ? others.at(-1) : stock)?.build_id ?? ''
}

/** What is known of the columns of a file that can't be mapped whole: the rest is asked for. */
function asFarAsKnown({ columns }: Preview): ColumnMap {
  const [torque, power] = (['torque', 'power'] as const).map((role) => columns.find((c) => c.role === role))
  return {
    ...EMPTY,
    torque_column: torque?.index ?? (power ? null : 1),
    torque_unit: torque?.unit ?? '',
    power_column: power?.index ?? null,
    power_unit: power?.unit ?? '',
  }
}

/** Each sweep of a file is a pull of its own, with what the file says of its air and correction. */
function runsOf(blank: Pending, preview: Preview): Pending[] {
  if (preview.log && !preview.mapping) return [logPending(blank, preview, preview.log)]
  const { air, standard } = preview.stated
  const facts = {
    ...blank.facts,
    temperature: air?.['air_temperature_c'] ?? '',
    pressure: air?.['air_pressure_kpa'] ?? '',
    humidity: air?.['air_humidity_percent'] ?? '',
    standard_in_file: standard || blank.facts.standard_in_file,
  }
  const whole = { ...blank, preview, facts, mapping: preview.mapping ?? asFarAsKnown(preview) }
  if (!preview.runs.length) return [whole]
  const several = preview.runs.length > 1
  return preview.runs.map((run, i) => ({
    ...whole,
    id: i ? newId() : blank.id,
    name: several ? `${blank.name}, run ${i + 1}` : blank.name,
    mapping: { ...run.mapping },
    first: String(run.first_row + 1),
    last: String(run.last_row + 1),
    facts: {
      ...facts,
      declared: { ...facts.declared },
      label: several ? `${facts.label}, run ${i + 1}` : facts.label,
    },
    accepted: [],
  }))
}

/** A file to look at: its name, when it was written, and how it is understood. */
export interface Source {
  name: string
  at: string
  preview: () => Promise<Preview>
}

/** A file that was dropped or chosen. */
export const dropped = (file: File): Source => ({
  name: file.name,
  at: new Date(file.lastModified).toISOString(),
  preview: async () => {
    const query = { name: file.name }
    return told(api.POST('/api/dyno/preview', { params: { query }, ...asBytes(await file.arrayBuffer()) }))
  },
})

/** A file of the watched folder. */
export const watched = ({ digest, name, written_at }: Schemas['WatchedFile']): Source => ({
  name,
  at: written_at,
  preview: () => told(api.POST('/api/dyno/watched/{digest}/preview', { params: { path: { digest } } })),
})

type Known = Omit<FactsForm, 'label' | 'temperature' | 'pressure' | 'humidity'>

const blankOf = (name: string, known: Known): Pending => ({
  id: newId(),
  name,
  mapping: { ...EMPTY },
  first: '',
  last: '',
  facts: { label: name, temperature: '', pressure: '', humidity: '', ...known },
  accepted: [],
  trust: 'check',
})

/** Whether a file is a log of the engine computer: it has no torque, and says something of the intake. */
export const isLog = (p: Pending): boolean => !!p.preview?.log && !p.preview.mapping

/** A log as it is sent; the stretch that was trimmed, or all that were found. */
function logOf(p: Pending, personId: string, jobId: string): Schemas['NewLog'] {
  const log = p.preview!.log!
  const { build_id, pulled_at, label, air_pressure_kpa } = factsOf(p.facts)
  const found = log.stretches.map(({ first, last }) => ({ first_row: first, last_row: last }))
  const trimmed = { first_row: rowOf(p.first) ?? 0, last_row: rowOf(p.last) ?? 0 }
  const asFound = p.facts.pressure === outsideOf(log)
  return {
    person_id: personId,
    job_id: jobId,
    build_id,
    file_digest: p.preview!.digest,
    speed_column: log.speed_column,
    stretches: found.length > 1 ? found : [trimmed],
    taken_at: pulled_at,
    label,
    outside_kpa: air_pressure_kpa,
    outside_from: asFound ? log.outside_from : 'typed',
    accepted: p.accepted,
  }
}

const outsideOf = (log: Schemas['LogFound']) => log.outside_kpa?.toFixed(2) ?? ''

/** A log on its way, with its stretch and the pressure that it tells. */
function logPending(blank: Pending, preview: Preview, log: Schemas['LogFound']): Pending {
  const [one] = log.stretches
  return {
    ...blank,
    preview,
    facts: { ...blank.facts, pressure: outsideOf(log) },
    first: one ? String(one.first + 1) : '',
    last: one ? String(one.last + 1) : '',
  }
}

/** A row as it is sent, counted from nought; none where nothing was typed. */
function rowOf(text: string): number | null {
  const row = whole(text)
  return row === null ? null : row - 1
}

export function usePending(jobId: string) {
  const pending = ref<Pending[]>([])

  /** `like` is the pull before: what was declared of it is taken over. */
  async function look(source: Source, build_id: string, dyno_id: string, like?: PullView): Promise<void> {
    const blank = blankOf(source.name, {
      build_id,
      dyno_id,
      ...parted(source.at),
      standard_in_file: like?.standard_in_file ?? 'observed',
      declared: { ...like?.declared },
    })
    try {
      pending.value.push(...runsOf(blank, await source.preview()))
    } catch (error) {
      const problem = problemIn(error, `${source.name} stays here; try again.`)
      pending.value.push({ ...blank, problem })
    }
  }

  /** A recorded pull, which stands as observed: whose it is and what was declared is known. */
  function lookAt(preview: Preview, recording: Schemas['RecordingView']): void {
    const { build_id, dyno_id, started_at, declared, ended_how } = recording
    const stopped =
      ended_how === 'swept' ? '' : `, ${ended_how === 'limit' ? 'stopped at a limit' : 'cut short'}`
    const facts = { build_id, dyno_id, ...parted(started_at), standard_in_file: 'observed', declared }
    const known = pending.value.some((p) => p.preview?.digest === preview.digest)
    if (!known) pending.value.push(...runsOf(blankOf(`live${stopped}`, facts), preview))
  }

  /** A kept pull's file, to be mapped anew; what is said of the pull stands. */
  function lookAgain(preview: Preview, pull: PullView): void {
    const facts = formOf(pull)
    const [found] = runsOf({ ...blankOf(facts.label, facts), replaces: pull.id }, preview)
    if (found) pending.value.push({ ...found, facts })
  }

  /** Keep one; returns whether it was kept. A question stays with its file. */
  async function keep(p: Pending, personId: string): Promise<boolean> {
    if (!p.preview) return false
    if (isLog(p)) return keepLog(p, logOf(p, personId, jobId))
    const body = {
      person_id: personId,
      job_id: jobId,
      file_digest: p.preview.digest,
      mapping: p.mapping,
      facts: factsOf(p.facts),
      first_row: rowOf(p.first),
      last_row: rowOf(p.last),
      trust: p.trust,
      accepted: p.accepted,
      replaces: p.replaces ?? null,
    }
    try {
      await told(api.PUT('/api/pulls/{pull_id}', { params: { path: { pull_id: p.id } }, body }))
    } catch (error) {
      p.problem = problemIn(error, `${p.name} stays here; try again.`)
      return false
    }
    pending.value = pending.value.filter((other) => other.id !== p.id)
    return true
  }

  async function keepLog(p: Pending, body: Schemas['NewLog']): Promise<boolean> {
    try {
      await told(api.PUT('/api/logs/{log_id}', { params: { path: { log_id: p.id } }, body }))
    } catch (error) {
      p.problem = problemIn(error, `${p.name} stays here; try again.`)
      return false
    }
    drop(p)
    return true
  }

  /** The same columns in the other files: mapped once. */
  function spread(from: Pending): void {
    const headings = (p: Pending) => p.preview?.columns.map((c) => c.heading + c.unit_written).join('|')
    for (const p of pending.value) {
      const beside = p.mapping.speed_column !== from.mapping.speed_column
      if (p !== from && headings(p) === headings(from) && !beside) p.mapping = { ...from.mapping }
    }
  }

  /** An answer's changes. */
  function answer(p: Pending, patch: Record<string, unknown>): void {
    const { facts, ...rest } = patch
    Object.assign(p, rest)
    Object.assign(p.facts, facts ?? {})
    p.problem = undefined
  }

  function drop(p: Pending): void {
    pending.value = pending.value.filter((other) => other.id !== p.id)
  }

  return { pending, look, lookAt, lookAgain, keep, spread, answer, drop }
}
