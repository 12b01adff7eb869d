/** A swap as it stands: loaded, its tasks ticked and taken back, its plan said anew. */
import { computed, ref, type ComputedRef, type Ref } from 'vue'
import { api, now, problemIn, told, type Problem, type Schemas } from '@/api/client'
import { useSheet, type Sheet } from '@/api/sheet'
import { useJob } from '@/frame/job'
import { useSession } from '@/frame/session'
import { planOf } from './plan'

export type Swap = Schemas['SwapView']
export type FitTask = Schemas['FitTaskView']
export type Plan = Schemas['SwapPlan']
export interface Tick {
  state: 'open' | 'waiting' | 'done'
  minutes?: number | null
  result?: string | null
  reading?: string
}

export interface UseSwap extends Pick<Sheet<Schemas['SwapSheet']>, 'sheet' | 'failure' | 'load'> {
  swap: ComputedRef<Swap | undefined>
  problem: Ref<Problem | undefined>
  tick: (task: FitTask, to: Tick) => Promise<boolean>
  /** Said anew: what changes, of the plan as it is when its turn comes; whether it was kept. */
  say: (change: (swap: Swap) => Partial<Plan>, more?: Record<string, unknown>) => Promise<boolean>
  /** Put the plan away, so that another swap can begin. */
  away: () => Promise<boolean>
  /** What was sent last, again, with an offer's changes. */
  again: (patch: Record<string, unknown>) => Promise<boolean>
  /** The tick that U takes back. */
  last: Ref<string | undefined>
}

export function useSwap(): UseSwap {
  const { id: jobId, reload, changed } = useJob()
  const { personId } = useSession()
  const { sheet, load, failure } = useSheet(
    () => told(api.GET('/api/jobs/{job_id}/swap', { params: { path: { job_id: jobId } } })),
    [changed],
  )
  const swap = computed(() => sheet.value?.swap ?? undefined)
  const problem = ref<Problem>()
  const last = ref<string>()
  let sent: (patch: Record<string, unknown>) => Promise<boolean> = () => Promise.resolve(false)

  let running: Promise<boolean> | undefined

  /** One at a time. */
  function attempt(work: () => Promise<unknown>): Promise<boolean> {
    running = done(work).finally(() => (running = undefined))
    return running
  }

  async function done(work: () => Promise<unknown>): Promise<boolean> {
    try {
      await work()
      problem.value = undefined
      await load()
      void reload().catch(() => undefined) // the head follows by itself
      return true
    } catch (caught) {
      problem.value = problemIn(caught, 'Nothing was lost; try again.')
      return false
    }
  }

  /** A key pressed while something is on its way is none. */
  function tick(task: FitTask, to: Tick): Promise<boolean> {
    if (running) return Promise.resolve(false)
    sent = (patch) =>
      attempt(async () => {
        const version = swap.value?.tasks.find((t) => t.key === task.key)?.version ?? task.version
        const body = { version, person_id: personId.value, at: now(), ...to, ...patch }
        await told(api.PATCH('/api/fit-tasks/{task_id}', { params: { path: { task_id: task.id } }, body }))
        last.value = to.state === 'done' ? task.key : undefined
      })
    return sent({})
  }

  /** What is said while something is on its way waits for it. */
  async function say(
    change: (swap: Swap) => Partial<Plan>,
    more: Record<string, unknown> = {},
  ): Promise<boolean> {
    while (running) await running
    sent = (patch) =>
      attempt(async () => {
        const here = swap.value
        if (!here) return
        const plan = { ...planOf(here), ...change(here) }
        const body = { version: here.version, person_id: personId.value, plan, ...more, ...patch }
        await told(api.PATCH('/api/fit-plans/{plan_id}', { params: { path: { plan_id: here.id } }, body }))
      })
    return sent({})
  }

  function away(): Promise<boolean> {
    sent = () =>
      attempt(async () => {
        const here = swap.value
        if (!here) return
        const body = { version: here.version, person_id: personId.value }
        await told(
          api.PATCH('/api/fit-plans/{plan_id}/away', { params: { path: { plan_id: here.id } }, body }),
        )
      })
    return sent({})
  }

  return { sheet, failure, load, swap, problem, tick, say, away, again: (patch) => sent(patch), last }
}
