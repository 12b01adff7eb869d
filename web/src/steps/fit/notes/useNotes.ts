/** What was noted while fitting: loaded, added, said anew. */
import { ref, type Ref } from 'vue'
import { api, newId, problemIn, told, type Problem, type Schemas } from '@/api/client'
import { useSheet, type Sheet } from '@/api/sheet'
import { useJob } from '@/frame/job'
import { useSession } from '@/frame/session'

export type Notes = Schemas['NoteSheet']
type Body = Schemas['NoteBody']

export interface UseNotes extends Pick<Sheet<Notes>, 'sheet' | 'failure'> {
  problem: Ref<Problem | undefined>
  keep: (note: Body, known?: { id: string; version: number }) => Promise<boolean>
}

export function useNotes(): UseNotes {
  const { id: jobId, changed } = useJob()
  const { personId } = useSession()
  const { sheet, load, failure } = useSheet(
    () => told(api.GET('/api/jobs/{job_id}/fit-notes', { params: { path: { job_id: jobId } } })),
    [changed],
  )
  const problem = ref<Problem>()
  let busy = false

  /** One at a time: a press while one is on its way is none. */
  async function keep(note: Body, known?: { id: string; version: number }): Promise<boolean> {
    if (busy) return false
    busy = true
    try {
      if (known)
        await told(
          api.PATCH('/api/fit-notes/{note_id}', {
            params: { path: { note_id: known.id } },
            body: { version: known.version, note },
          }),
        )
      else
        await told(
          api.PUT('/api/fit-notes/{note_id}', {
            params: { path: { note_id: newId() } },
            body: { person_id: personId.value, job_id: jobId, note },
          }),
        )
      problem.value = undefined
      await load()
      return true
    } catch (caught) {
      problem.value = problemIn(caught, 'Your entry is still here; press Enter to retry.')
      return false
    } finally {
      busy = false
    }
  }
  return { sheet, failure, problem, keep }
}
