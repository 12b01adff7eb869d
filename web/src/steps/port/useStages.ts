/** Stages of a part: begun, finished, and taken back where one was begun by mistake. */
import { ref } from 'vue'
import { api, newId, problemIn, told } from '@/api/client'
import { useSession } from '@/frame/session'
import { offerUndo } from '@/frame/undo'

interface Staged {
  part_id?: string | null
  state_id?: string | null
  state?: string
  in_work?: boolean
}

export function useStages(part: () => Staged | undefined, reloaded: () => Promise<void>) {
  const { personId } = useSession()
  const refusal = ref('')

  async function attempt(work: () => Promise<void>, failed: string): Promise<void> {
    try {
      await work()
      refusal.value = ''
    } catch (caught) {
      refusal.value = problemIn(caught, failed).detail
    }
  }

  const begin = (stage: number, piece_id: string | null = null) =>
    attempt(async () => {
      const part_id = part()?.part_id ?? ''
      const body = { person_id: personId.value, part_id, stage, in_work: true, piece_id }
      await told(api.PUT('/api/states/{state_id}', { params: { path: { state_id: newId() } }, body }))
      await reloaded()
    }, 'The stage is not begun. Try again.')

  const finish = () =>
    attempt(async () => {
      const state_id = part()?.state_id
      if (!state_id) return
      const body = { person_id: personId.value }
      await told(api.POST('/api/states/{state_id}/finish', { params: { path: { state_id } }, body }))
      await reloaded()
    }, 'The stage is not finished. Try again.')

  const takeBack = () =>
    attempt(async () => {
      const { state_id, state, in_work } = part() ?? {}
      if (!state_id || !in_work) return
      const body = await told(api.DELETE('/api/states/{state_id}', { params: { path: { state_id } } }))
      await reloaded()
      offerUndo(`${state} taken back`, async () => {
        await told(api.PUT('/api/states/{state_id}', { params: { path: { state_id: newId() } }, body }))
        await reloaded()
      })
    }, 'The stage is not taken back. Try again.')

  return { refusal, begin, finish, takeBack }
}
