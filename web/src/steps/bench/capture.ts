/** Capturing on the bench: what is typed becomes a queued write; questions come back to their rung. */
import { computed, onScopeDispose, ref, type Ref } from 'vue'
import { api, newId, now, told, whileReachable, type Schemas } from '@/api/client'
import { send, useOutbox, withdraw, type About, type Write } from '@/api/outbox'
import { useSession } from '@/frame/session'
import type { LiveState } from '@/taking/live'
import { useRounds } from './rounds'
import { bodyOf, formOf, type SetupBody } from './setup'

type Sheet = Omit<Schemas['BenchSheet'], 'band'>
export type Side = 'before' | 'after'
/** A set-up of which nothing was said. */
const PLAIN = bodyOf(formOf(null, ''), 'inH2O')

/** How a figure came: from the bench, with every sample; from a table, with its date; or as a planned refit. */
export interface Came {
  taken?: LiveState
  takenAt?: string | null
  refit?: boolean
}

export function useCapture(jobId: string, sheet: Readonly<Ref<Sheet | undefined>>) {
  const { personId, shop, loadShop } = useSession()
  const { writes, onSent } = useOutbox()
  const side = ref<Side>('before')
  const rounds = useRounds(jobId, sheet, side, (cylinder) => untold(cylinder))
  const active = ref(1)
  /** Ids made here before the server has told of them. */
  const made = ref<{ setup?: string; after?: string; bench?: string }>({})

  const stateId = computed(() =>
    side.value === 'before'
      ? sheet.value?.before_state_id
      : (sheet.value?.after_state_id ?? made.value.after),
  )
  /** Whether a waiting write is a figure of the side that is chosen. */
  const isOfSide = ({ about }: Write): boolean =>
    about.job === jobId && about.what === 'flow' && about.state === stateId.value
  const isOf = (write: Write, cylinder: number): boolean =>
    isOfSide(write) && write.about.cylinder === cylinder
  const writeOf = (cylinder: number): Write | undefined => writes.value.find((w) => isOf(w, cylinder))
  /** What went out from here: the sheet may not have told of it yet. */
  const delivered = ref(new Map<string, Write>())
  onScopeDispose(
    onSent((write) => void (write.about.job === jobId && delivered.value.set(write.id, write))),
    true,
  )
  /** Figures of a runner on the chosen side, waiting or on their way back, that the sheet does not tell of. */
  function untold(cylinder: number): Write[] {
    const rung = sheet.value?.rungs.find((r) => r.cylinder === cylinder)
    const told = new Set(rung?.[side.value].readings.map((r) => r.id))
    const ours = [...writes.value, ...delivered.value.values()].filter((w) => isOf(w, cylinder))
    return ours.filter((w) => !told.has(w.id))
  }
  const setupProblems = computed(() =>
    writes.value.filter(({ about, problem }) => about.job === jobId && about.what === 'setup' && problem),
  )
  const setupProblem = computed(() => setupProblems.value[0]?.problem?.detail ?? '')
  const waiting = computed(() => {
    const found = new Map<number, string>()
    for (const rung of sheet.value?.rungs ?? []) {
      const write = writeOf(rung.cylinder)
      if (write)
        found.set(
          rung.cylinder,
          `${String(write.body['typed'] || write.shown)} ${write.problem ? '?' : 'waiting'}`,
        )
    }
    return found
  })

  const isRead = (cylinder: number): boolean => {
    const rung = sheet.value?.rungs.find((r) => r.cylinder === cylinder)
    return !!rung?.[side.value].mean || untold(cylinder).length > 0
  }

  /** The rung that is due: by the planned rounds, else the next one without a figure, round the ladder, or the next
   * one where all are read; always the reference runner where it stands for the others. */
  function next(from: number): number {
    const due = rounds.due(from)
    if (due) return due
    if (sheet.value?.reference_runner) return sheet.value.reference_runner
    const count = sheet.value?.rungs.length ?? 1
    const order = Array.from({ length: count }, (_, i) => ((from + i) % count) + 1)
    return order.find((cylinder) => !isRead(cylinder)) ?? Math.min(from + 1, count)
  }

  /** Queued before what is taken on it, and not waited for: figures go out in the order in which they were typed. */
  function ensureBench(): string {
    const known = sheet.value?.setup?.bench_id ?? shop.value?.benches[0]?.id ?? made.value.bench
    if (known) return known
    const id = newId()
    made.value = { ...made.value, bench: id }
    void send('/api/benches/{bench_id}', id, { name: 'Bench 1' }, { job: jobId, what: 'bench' }).then(() =>
      whileReachable(loadShop),
    )
    return id
  }

  /** The valid figure of this side that was taken last, and its runner. */
  function newest(): { reading: Schemas['ReadingView']; at: number } | undefined {
    const all = sheet.value?.rungs.flatMap((r) =>
      r[side.value].readings.map((reading) => ({ reading, at: r.cylinder })),
    )
    return all
      ?.filter(({ reading }) => !reading.struck)
      .sort((a, b) => a.reading.taken_at.localeCompare(b.reading.taken_at))
      .at(-1)
  }

  /** Note a set-up: the last one, with what was changed. One that was refused is forgotten. */
  async function keepSetup(changes: Partial<SetupBody>): Promise<void> {
    const { id, sent } = queueSetup(changes)
    await sent
    if (writes.value.some((w) => w.id === id && w.problem)) made.value = { ...made.value, setup: undefined }
  }

  function queueSetup(changes: Partial<SetupBody>): { id: string; sent: Promise<void> } {
    for (const write of setupProblems.value) withdraw(write.id)
    const id = newId()
    const old = sheet.value?.previous
    const bench_id = changes.bench_id || ensureBench()
    const body = {
      depression: old?.depression ?? '28',
      depression_unit: old?.depression_unit ?? 'inH2O',
      ...old?.items,
      air_temperature_c: old?.air_temperature_c ?? null,
      air_pressure_kpa: old?.air_pressure_kpa ?? null,
      air_humidity_percent: old?.air_humidity_percent ?? null,
      ...changes,
      person_id: personId.value,
      job_id: jobId,
      bench_id,
    }
    made.value = { ...made.value, setup: id }
    return { id, sent: send('/api/setups/{setup_id}', id, body, { job: jobId, what: 'setup' }) }
  }

  /** The set-up that figures are taken in. Without one noted, the plainest: what another job had is not assumed. */
  const ensureSetup = (): string => made.value.setup ?? sheet.value?.setup?.id ?? queueSetup(PLAIN).id

  /** Queue a figure for a rung. A repeat that is planned asks nothing, but whether it can be so far off. */
  async function keep(cylinder: number, typed: string, came: Came = {}): Promise<void> {
    const state = stateId.value
    if (!state || !sheet.value) return
    const unit = sheet.value.unit_code
    const setup_id = ensureSetup()
    const { taken, takenAt, refit } = came
    const plan = takenAt ? null : rounds.running()
    const body = {
      person_id: personId.value,
      job_id: jobId,
      setup_id,
      part_state_id: state,
      cylinder,
      typed,
      taken_at: takenAt ?? now(),
      dated: !!takenAt,
      default_unit: unit,
      taken: taken?.taken ?? null,
      accepted: refit || plan ? ['already_read'] : [],
      refitted: refit ?? plan?.refitted ?? true,
    }
    const about: About = { job: jobId, what: 'flow', state, cylinder }
    await send('/api/flow-readings/{reading_id}', newId(), body, about, taken?.mean?.text)
  }

  async function strike(readingId: string, reason: string): Promise<void> {
    const body = { person_id: personId.value, reason, struck_at: now() }
    await send('/api/strikes/{reading_id}', readingId, body, { job: jobId, what: 'strike' })
  }

  /** Note the cut: the part's next state, on which the figures after are taken. */
  async function cut(stage: number | null): Promise<void> {
    if (!sheet.value?.part_id) return
    const id = newId()
    made.value = { ...made.value, after: id }
    side.value = 'after'
    active.value = next(0)
    const body = { person_id: personId.value, part_id: sheet.value.part_id, stage }
    await send('/api/states/{state_id}', id, body, { job: jobId, what: 'cut' })
  }

  /** Read the active runner for all of them, or all of them again. */
  async function chooseReference(version: number): Promise<void> {
    const runner = sheet.value?.reference_runner ? null : active.value
    await told(
      api.POST('/api/jobs/{job_id}/reference', {
        params: { path: { job_id: jobId } },
        body: { version, runner },
      }),
    )
  }

  return {
    side,
    active,
    rounds,
    stateId,
    isOf,
    isOfSide,
    setupProblem,
    waiting,
    next,
    newest,
    keep,
    keepSetup,
    ensureSetup,
    ensureBench,
    strike,
    cut,
    chooseReference,
  }
}
