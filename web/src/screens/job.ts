/** The job that is open: its head, loaded once by the frame and again after each change. */
import { inject, provide, shallowRef, type InjectionKey, type ShallowRef } from 'vue'
import { fill, get, type Schemas } from '@/api/client'
import { useSession } from '@/shared/session'

export type JobView = Schemas['JobView']

interface OpenJob {
  id: string
  job: ShallowRef<JobView | undefined>
  reload: () => Promise<void>
}

const KEY: InjectionKey<OpenJob> = Symbol('job')

export function provideJob(id: string): OpenJob {
  const { units } = useSession()
  const job = shallowRef<JobView>()
  const open: OpenJob = {
    id,
    job,
    async reload() {
      await fill(job, get(`/api/jobs/${id}?units=${units.value}`))
    },
  }
  provide(KEY, open)
  return open
}

export function useJob(): OpenJob {
  const open = inject(KEY)
  if (!open) throw new Error('This screen belongs inside a job.')
  return open
}
