/** The job that is open: its head, loaded once by the frame and again after each change. */
import { inject, provide, type InjectionKey, type Ref } from 'vue'
import { api, told, type Schemas } from '@/api/client'
import { useSheet } from '@/api/sheet'
import { useSession } from './session'

export type JobView = Schemas['JobView']

interface OpenJob {
  id: string
  job: Readonly<Ref<JobView | undefined>>
  failure: Readonly<Ref<string>>
  reload: () => Promise<void>
}

const KEY: InjectionKey<OpenJob> = Symbol('job')

export function provideJob(id: string): OpenJob {
  const { units } = useSession()
  const {
    sheet: job,
    failure,
    load: reload,
  } = useSheet(
    () =>
      told(
        api.GET('/api/jobs/{job_id}', { params: { path: { job_id: id }, query: { units: units.value } } }),
      ),
    [units],
  )
  const open = { id, job, failure, reload }
  provide(KEY, open)
  return open
}

export function useJob(): OpenJob {
  const open = inject(KEY)
  if (!open) throw new Error('This screen belongs inside a job.')
  return open
}
