/** Parts wanted for a job or for the shelf, with the way to take it back. */
import { api, newId, told } from '@/api/client'
import { offerUndo } from '@/frame/undo'

/** Want each part, as many as its place takes; the order list shows them. */
export async function wantParts(
  personId: string,
  jobId: string | null,
  parts: { part_id: string; name: string; pieces?: number }[],
): Promise<void> {
  const wants: string[] = []
  for (const { part_id, pieces } of parts) {
    const want_id = newId()
    const body = { person_id: personId, job_id: jobId, part_id, count: pieces ?? 1 }
    await told(api.PUT('/api/wants/{want_id}', { params: { path: { want_id } }, body }))
    wants.push(want_id)
  }
  offerUndo(`${parts.map((p) => p.name).join(', ')} on the order list`, async () => {
    for (const want_id of wants) {
      const body = { version: 1, state: 'dropped' as const }
      await told(api.POST('/api/wants/{want_id}/state', { params: { path: { want_id } }, body }))
    }
  })
}
