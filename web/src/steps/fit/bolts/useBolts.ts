/** Bolt maps of a job: loaded, their bolts ticked off one by one and taken back. */
import { ref, type Ref } from 'vue'
import { api, now, problemIn, told, type Problem, type Schemas } from '@/api/client'
import { useSheet, type Sheet } from '@/api/sheet'
import { useJob } from '@/frame/job'
import { useSession } from '@/frame/session'

type BoltMap = Schemas['BoltMapView']
export interface UseBolts extends Pick<Sheet<Schemas['BoltSheet']>, 'sheet' | 'failure' | 'load'> {
  problem: Ref<Problem | undefined>
  /** One tick at a time: a press while one is on its way is none. */
  tick: (map: BoltMap, patch?: Record<string, unknown>) => Promise<void>
  /** The last tick again, with an offer's changes. */
  answer: (patch: Record<string, unknown>) => Promise<void>
}

export function useBolts(): UseBolts {
  const { id: jobId, reload, changed } = useJob()
  const { personId, units } = useSession()
  const { sheet, load, failure } = useSheet(
    () =>
      told(
        api.GET('/api/jobs/{job_id}/bolts', {
          params: { path: { job_id: jobId }, query: { units: units.value } },
        }),
      ),
    [units, changed],
  )
  const problem = ref<Problem>()
  let busy = false
  let last: [string, Record<string, unknown>] | undefined

  async function tick(map: BoltMap, patch: Record<string, unknown> = {}): Promise<void> {
    if (busy) return
    busy = true
    last = [map.id, patch]
    const body = {
      version: map.version,
      person_id: personId.value,
      at: now(),
      bolt: map.bolt ?? 0,
      ...patch,
    }
    try {
      await told(api.PATCH('/api/bolt-maps/{map_id}/ticks', { params: { path: { map_id: map.id } }, body }))
      problem.value = undefined
      await load()
      void reload().catch(() => undefined) // the head follows by itself
    } catch (caught) {
      problem.value = problemIn(caught, 'Nothing was lost; try again.')
    } finally {
      busy = false
    }
  }

  async function answer(patch: Record<string, unknown>): Promise<void> {
    const [id, before] = last ?? []
    const map = sheet.value?.maps.find((one) => one.id === id)
    if (map) await tick(map, { ...before, ...patch })
  }

  return { sheet, load, failure, problem, tick, answer }
}
