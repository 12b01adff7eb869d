/** The job that is open: its head, loaded once by the frame and again after each change. */
import { useDocumentVisibility, useIntervalFn } from '@vueuse/core'
import { inject, provide, ref, type InjectionKey, type Ref } from 'vue'
import { api, told, whileReachable, type Schemas } from '@/api/client'
import { useSheet } from '@/api/sheet'
import { useSession } from './session'

export type JobView = Schemas['JobView']

interface OpenJob {
  id: string
  job: Readonly<Ref<JobView | undefined>>
  failure: Readonly<Ref<string>>
  reload: () => Promise<void>
  /** Another with every change of what the job's screens show, whoever made it. */
  changed: Readonly<Ref<string>>
}

/** So often it is asked whether somebody else changed something: they are to see it within a second. */
const LOOK_MS = 700

const KEY: InjectionKey<OpenJob> = Symbol('job')

export function provideJob(id: string): OpenJob {
  const { units } = useSession()
  const changed = useChanges(id)
  const {
    sheet: job,
    failure,
    load: reload,
  } = useSheet(
    () =>
      told(
        api.GET('/api/jobs/{job_id}', { params: { path: { job_id: id }, query: { units: units.value } } }),
      ),
    [units, changed],
  )
  const open = { id, job, failure, reload, changed }
  provide(KEY, open)
  return open
}

function useChanges(id: string): Ref<string> {
  const changed = ref('')
  let known = ''
  const visible = useDocumentVisibility()
  const look = () =>
    whileReachable(async () => {
      const { mark } = await told(
        api.GET('/api/jobs/{job_id}/revision', { params: { path: { job_id: id } } }),
      )
      if (known && mark !== known) changed.value = mark
      known = mark
    })
  const quietly = () => void look().catch(() => undefined) // it is asked again soon
  quietly() // before anything is shown of the job
  useIntervalFn(() => visible.value === 'visible' && quietly(), LOOK_MS)
  return changed
}

/** What a calculation can take of a job's engine, by the names of its fields. */
export function engineFigures(job: JobView | undefined): Record<string, number | undefined> {
  const engine = job?.engine
  return {
    bore_mm: engine?.bore?.value,
    stroke_mm: engine?.stroke?.value,
    cylinders: engine?.cylinder_count,
    engine_speed_rpm: job?.band_high_rpm ?? engine?.limit_rpm ?? undefined,
  }
}

export function useJob(): OpenJob {
  const open = inject(KEY)
  if (!open) throw new Error('This screen belongs inside a job.')
  return open
}
