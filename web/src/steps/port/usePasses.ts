/** The watch: begin, stop and end the round that is on, on the runner at hand. */
import { computed, ref, type Ref } from 'vue'
import { api, newId, now, problemIn, told, type Problem, type Schemas } from '@/api/client'
import { useSession } from '@/frame/session'
import { offerUndo } from '@/frame/undo'

type Sheet = Schemas['PortSheet']

export function usePasses(jobId: string, sheet: Readonly<Ref<Sheet | undefined>>, load: () => Promise<void>) {
  const { personId } = useSession()
  const problem = ref<Problem>()
  let last: { cylinder: number; round: string } | undefined
  const round = computed(() => sheet.value?.passes?.rounds[sheet.value.passes.here])
  const passOf = (runner: number) => round.value?.passes.find((p) => p.runner === runner)

  async function attempt(work: () => Promise<unknown>): Promise<void> {
    try {
      await work()
      problem.value = undefined
      await load()
    } catch (caught) {
      problem.value = problemIn(caught, 'Nothing was lost; try again.')
    }
  }

  function start(cylinder: number, name: string, patch: Record<string, unknown> = {}): Promise<void> {
    last = { cylinder, round: name }
    return attempt(async () => {
      const body = {
        person_id: personId.value,
        job_id: jobId,
        part_state_id: sheet.value?.state_id ?? '',
        cylinder,
        round: name,
        at: now(),
        ...patch,
      }
      await told(api.PUT('/api/port-passes/{pass_id}', { params: { path: { pass_id: newId() } }, body }))
    })
  }

  const act = (pass: Schemas['PassView'], what: string, inspected?: string[]) =>
    attempt(async () => {
      const body = { version: pass.version, person_id: personId.value, act: what, at: now(), inspected }
      await told(api.PATCH('/api/port-passes/{pass_id}', { params: { path: { pass_id: pass.id } }, body }))
    })

  /** The watch of a runner goes on, or stands. */
  function toggle(runner: number): void {
    const pass = passOf(runner)
    if (pass?.running_since) void act(pass, 'pause')
    else if (pass) void act(pass, 'resume')
    else if (round.value) void start(runner, round.value.name)
  }

  function done(runner: number): void {
    const pass = passOf(runner)
    if (pass) void act(pass, pass.done ? 'resume' : 'done')
  }

  /** One more tool that this pass wore out; taken back by the strip that offers it. */
  function wear(runner: number): void {
    const pass = passOf(runner)
    if (!pass) {
      problem.value = problemIn(undefined, `No pass on runner ${runner} yet: start its watch first (Space).`)
      return
    }
    void act(pass, 'worn').then(() => {
      if (problem.value) return
      offerUndo(`One ${round.value?.name ?? 'tool'} worn out on runner ${runner}`, async () => {
        const now = passOf(runner)
        if (now) await act(now, 'not worn')
      })
    })
  }

  function look(runner: number, what: string): void {
    const pass = passOf(runner)
    if (!pass) return
    const seen = pass.inspected.includes(what)
      ? pass.inspected.filter((one) => one !== what)
      : [...pass.inspected, what]
    void act(pass, 'look', seen)
  }

  const choose = (patch: Record<string, unknown>) => last && void start(last.cylinder, last.round, patch)
  return { problem, round, passOf, start, toggle, done, look, wear, choose }
}
