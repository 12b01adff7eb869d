/** A figure measured of an element on its path: a bore, a length, or what it flows by itself. */
import { ref, type Ref } from 'vue'
import type { PathElement } from '@/airpath/layout'
import { api, newId, now, problemIn, told, type Problem, type Schemas } from '@/api/client'
import { useSession } from '@/frame/session'
import { shelfKind } from './thought'

/** What was answered to a question about a figure. */
export type Answer = { accepted?: string[]; replaces?: string[]; refitted?: boolean }

export function useMeasuring(
  jobId: string,
  build: Ref<Schemas['BuildView'] | undefined>,
  reload: () => Promise<void>,
) {
  const { personId, shop } = useSession()
  const problem = ref<Problem>()

  /** A measurement needs a part: an element without one gets it first. */
  async function stateOf(e: PathElement): Promise<string> {
    if (e.part_state_id) return e.part_state_id
    const state_id = newId()
    await told(
      api.PUT('/api/parts/{part_id}', {
        params: { path: { part_id: newId() } },
        body: { person_id: personId.value, job_id: jobId, kind: shelfKind(e), name: e.label, state_id },
      }),
    )
    const current = build.value
    if (current) {
      await told(
        api.PATCH('/api/builds/{build_id}', {
          params: { path: { build_id: current.id } },
          body: { version: current.version, node_id: e.node_id, part_state_id: state_id },
        }),
      )
      await reload() // a figure that is refused now finds its part there
    }
    return state_id
  }

  /** Keep a figure; returns whether it was kept. A question stays with it. */
  async function measure(e: PathElement, quantity: string, typed: string, answer: Answer): Promise<boolean> {
    const shared = {
      person_id: personId.value,
      job_id: jobId,
      element_kind: e.kind,
      taken_at: now(),
      cylinder: e.kind === 'runner' ? e.cylinder : null,
    }
    const params = { path: { reading_id: newId() } }
    try {
      const part_state_id = await stateOf(e)
      if (quantity === 'flow') {
        const [figure, depression] = typed.split(/\s+at\s+/)
        const bench_id = shop.value?.benches[0]?.id ?? ''
        const read = { typed: figure ?? '', depression: depression ?? '28', bench_id }
        await told(
          api.PUT('/api/part-flows/{reading_id}', {
            params,
            body: { ...shared, part_state_id, ...read, ...answer },
          }),
        )
      } else {
        const body = { ...shared, part_state_id, quantity, typed, accepted: answer.accepted ?? [] }
        await told(api.PUT('/api/dimensions/{reading_id}', { params, body }))
      }
      problem.value = undefined
      await reload()
      return true
    } catch (caught) {
      problem.value = problemIn(caught, 'Your entry is still here; press Enter to retry.')
      return false
    }
  }

  return { problem, measure }
}
