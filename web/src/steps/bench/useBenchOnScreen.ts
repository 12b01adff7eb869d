/** What the bench shows, for a calculation that is looked up from it; its result goes into the entry as if typed. */
import type { Ref } from 'vue'
import type { Schemas } from '@/api/client'
import { engineFigures, type JobView } from '@/frame/job'
import { useOnScreen } from '@/frame/onScreen'
import { putDraft } from '@/ui/draft'
import type { Side } from './capture'

type Sheet = Omit<Schemas['BenchSheet'], 'band'>

export function useBenchOnScreen(
  job: Readonly<Ref<JobView | undefined>>,
  sheet: Readonly<Ref<Sheet | undefined>>,
  side: Ref<Side>,
  active: Ref<number>,
): void {
  useOnScreen(() => ({
    of: `runner ${active.value} on the bench`,
    values: figures(sheet.value, active.value, side.value),
    engine: engineFigures(job.value),
    takes: { units: ['CFM', 'm³/h', 'L/s'], put },
  }))

  function put(typed: string): void {
    if (!job.value) return
    putDraft(`bench.${job.value.id}`, typed)
    putDraft(`bench.${job.value.id}.place`, { side: side.value, runner: active.value })
  }
}

/** Only figures in the unit that a field's name says. */
function figures(sheet: Sheet | undefined, runner: number, side: Side): Record<string, number | undefined> {
  const setup = sheet?.setup
  const mean = sheet?.rungs.find((r) => r.cylinder === runner)?.[side].mean
  const inches = setup?.depression_unit === 'inH2O' ? Number(setup.depression) : undefined
  return {
    flow_cfm: sheet?.unit_code === 'cfm' ? mean?.value : undefined,
    measured_inh2o: inches,
    temperature_c: setup?.air_temperature_c ?? undefined,
    pressure_kpa: setup?.air_pressure_kpa ?? undefined,
    humidity_percent: setup?.air_humidity_percent ?? undefined,
  }
}
