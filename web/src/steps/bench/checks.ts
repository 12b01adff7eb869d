/** Checks of the bench: which one is being taken, and sending it. */
import { computed, ref } from 'vue'
import { newId, now } from '@/api/client'
import { send, useOutbox } from '@/api/outbox'
import { sent } from '@/ui/figures'
import { useSession } from '@/frame/session'
import type { LiveState } from '@/taking/live'

export const CHECKS = [
  { kind: 'zero', label: 'zero', says: 'Motor off, no flow' },
  { kind: 'leak', label: 'leak test', says: 'All ports blanked, full depression' },
  { kind: 'plate', label: 'reference plate', says: 'Only the plate on the bench' },
  { kind: 'low', label: 'low depression', says: 'Same runner at low depression, nothing touched' },
  {
    kind: 'held',
    label: 'blade held open',
    says: 'Same runner, blade held fully open by hand',
  },
] as const
export type CheckKind = (typeof CHECKS)[number]['kind']

export function useChecks(jobId: string, bench: () => string, setup: () => string) {
  const { personId } = useSession()
  const { writes } = useOutbox()
  const kind = ref<CheckKind>()
  const plate = ref({ name: '', flow: '', percent: '' })
  const depression = ref('12 inH2O')
  const problem = computed(() =>
    writes.value.find((w) => w.about.job === jobId && w.about.what === 'check' && w.problem),
  )
  const chosen = computed(() => CHECKS.find((c) => c.kind === kind.value))

  async function take(typed: string, unit: string, taken?: LiveState): Promise<void> {
    if (!kind.value) return
    const ofPlate = kind.value === 'plate'
    const body = {
      person_id: personId.value,
      kind: kind.value,
      setup_id: setup(),
      bench_id: bench(),
      typed,
      taken_at: now(),
      default_unit: unit,
      taken: taken?.taken ?? null,
      depression: kind.value === 'low' && !taken ? depression.value : '',
      plate: ofPlate ? plate.value.name : '',
      plate_flow: ofPlate ? plate.value.flow : '',
      plate_uncertainty_percent: ofPlate ? sent(plate.value.percent) : null,
    }
    await send('/api/checks/{check_id}', newId(), body, { job: jobId, what: 'check' }, taken?.mean?.text)
    if (!problem.value) kind.value = undefined
  }
  return { kind, chosen, plate, depression, problem, take }
}
