/** New builds of a job: copied, with parts swapped, an element put in or taken out, or of another shape. */
import { ref, type Ref } from 'vue'
import { api, newId, problemIn, told, type Problem, type Schemas } from '@/api/client'
import { useSession } from '@/frame/session'
import { offerUndo } from '@/frame/undo'
import type { Thought } from './thought'

type BuildCopy = Schemas['BuildCopy']

export function useBuilds(
  jobId: string,
  build: Ref<Schemas['BuildView'] | undefined>,
  made: () => Promise<void>,
) {
  const { personId } = useSession()
  const problem = ref<Problem>()

  async function tried(make: () => Promise<unknown>): Promise<void> {
    try {
      await make()
      await made()
      problem.value = undefined
    } catch (caught) {
      problem.value = problemIn(caught, 'Nothing is lost; try again.')
    }
  }

  async function copied(changes: Partial<BuildCopy>): Promise<void> {
    const copy_of = build.value?.id
    if (!copy_of) return
    await tried(() =>
      told(
        api.PUT('/api/build-copies/{build_id}', {
          params: { path: { build_id: newId() } },
          body: { person_id: personId.value, copy_of, ...changes },
        }),
      ),
    )
  }

  /** The swaps that are thought of, as a build of their own; without any, a plain copy. */
  const keepAsBuild = (swaps: [string, Thought][]) =>
    copied({
      swaps: swaps.flatMap(([node_id, { part }]) => (part ? { node_id, part_state_id: part.state_id } : [])),
    })
  const putIn = (node_id: string, kind: string) => copied({ put_in: { node_id, kind } })
  const takeOut = (node_id: string) => copied({ taken_out: node_id })
  const shape = (name: string) =>
    tried(() =>
      told(
        api.PUT('/api/shaped-builds/{build_id}', {
          params: { path: { build_id: newId() } },
          body: { person_id: personId.value, job_id: jobId, shape: name },
        }),
      ),
    )

  const of = () => ({ path: { build_id: build.value?.id ?? '' } })
  const named = (params: ReturnType<typeof of>, version: number, name: string) =>
    told(api.PATCH('/api/builds/{build_id}/name', { params, body: { version, name } }))
  const rename = (name: string) =>
    tried(async () => {
      const { version, name: before } = build.value ?? { version: 0, name: '' }
      const params = of()
      await named(params, version, name)
      offerUndo(`Build “${before}” is now “${name}”`, async () => {
        await named(params, version + 1, before)
        await made()
      })
    })
  const remove = () =>
    tried(async () => {
      const { version, name } = build.value ?? { version: 0, name: '' }
      const body = await told(
        api.DELETE('/api/builds/{build_id}', { params: { ...of(), query: { version } } }),
      )
      offerUndo(`Build “${name}” taken away`, async () => {
        await told(api.PUT('/api/builds/{build_id}', { params: { path: { build_id: newId() } }, body }))
        await made()
      })
    })

  return { problem, keepAsBuild, putIn, takeOut, shape, rename, remove }
}
