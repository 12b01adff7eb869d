/** What is looked at on the dyno screen: use or band, reference, correction, and what is drawn. */
import { computed, ref, watch } from 'vue'
import { api, told, type Schemas } from '@/api/client'
import { useSheet } from '@/api/sheet'
import { useJob } from '@/frame/job'
import { useSession } from '@/frame/session'

export function useDyno() {
  const { id: jobId, changed } = useJob()
  const { units } = useSession()
  const use = ref('')
  const band = ref<[number, number]>()
  const reference = ref<string>()
  const observed = ref(false)
  const chosenByHand = ref<string>()
  const hidden = ref<string[]>([])
  const quantity = ref<'power' | 'torque'>('power')
  const percent = ref(false)
  const standard = computed(() => (observed.value ? ('observed' as const) : undefined))

  const { sheet, load, failure } = useSheet(
    () =>
      told(
        api.GET('/api/jobs/{job_id}/dyno', {
          params: {
            path: { job_id: jobId },
            query: {
              units: units.value,
              use: use.value,
              reference: reference.value,
              standard: standard.value,
            },
          },
        }),
      ),
    [units, use, reference, standard, changed],
  )
  const { sheet: beside, load: loadBeside } = useSheet(
    () => told(api.GET('/api/jobs/{job_id}/dyno/beside', { params: { path: { job_id: jobId } } })),
    [changed],
  )
  /** Another band than the uses': only what is judged changes. */
  const { sheet: bandAnswer } = useSheet(askBand, [band, sheet])

  async function askBand(): Promise<{ judged?: Schemas['JudgedView'] | null }> {
    if (!band.value || !sheet.value?.plate) return {}
    const [low_rpm, high_rpm] = band.value
    const query = {
      units: units.value,
      low_rpm,
      high_rpm,
      reference: reference.value,
      standard: standard.value,
    }
    return {
      judged: await told(
        api.GET('/api/jobs/{job_id}/dyno/band', { params: { path: { job_id: jobId }, query } }),
      ),
    }
  }

  const judged = computed(() => bandAnswer.value?.judged ?? sheet.value?.judged ?? undefined)
  /** The dynos of the pulls that count. */
  const pulledOn = computed(() => [
    ...new Set(sheet.value?.pulls.filter((p) => !p.struck).map((p) => p.dyno_id)),
  ])
  const table = computed(() => judged.value?.table)
  const chosenUse = computed(() => table.value?.uses.find((u) => u.chosen))
  /** The design that is marked: chosen by hand, else the one that answers. */
  const chosen = computed(() => chosenByHand.value ?? judged.value?.head.build_id ?? undefined)
  watch([use, band, reference], () => (chosenByHand.value = undefined))

  function toUse(name: string): void {
    band.value = undefined
    use.value = name
  }

  /** The next design as the reference: any against any. */
  function nextReference(): void {
    const pulled = sheet.value?.plate?.curves.map((c) => c.build_id) ?? []
    const at = pulled.indexOf(sheet.value?.reference_id ?? '')
    reference.value = pulled[(at + 1) % pulled.length]
  }

  function step(by: number): void {
    const rows = table.value?.rows.map((r) => r.build_id) ?? []
    if (!rows.length) return
    const at = rows.indexOf(chosen.value ?? '')
    chosenByHand.value = rows[(at + by + rows.length) % rows.length]
  }

  function hide(id: string | undefined): void {
    if (!id) return
    const off = hidden.value.includes(id)
    hidden.value = off ? hidden.value.filter((one) => one !== id) : [...hidden.value, id]
  }

  return {
    ...{
      beside,
      loadBeside,
      sheet,
      load,
      failure,
      judged,
      table,
      chosenUse,
      chosen,
      chosenByHand,
      hidden,
      quantity,
      percent,
    },
    ...{ pulledOn, observed, band, toUse, nextReference, step, hide },
  }
}
