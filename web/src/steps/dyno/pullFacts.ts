/** What is said of a pull, as texts to type into: air with units as they come, what was declared item by item. */
import type { Schemas } from '@/api/client'
import { sent } from '@/ui/figures'

export type PullView = Schemas['PullView']
/** What is to be struck out, as it is named. */
export type Struck = Pick<PullView, 'id' | 'build' | 'label'>
export interface FactsForm {
  build_id: string
  dyno_id: string
  label: string
  date: string
  time: string
  standard_in_file: string
  temperature: string
  pressure: string
  humidity: string
  declared: Record<string, string>
}

const two = (n: number) => String(n).padStart(2, '0')

/** Date and time of a moment, as the fields of a browser take them. */
export function parted(at: string): { date: string; time: string } {
  const t = new Date(at)
  return {
    date: `${t.getFullYear()}-${two(t.getMonth() + 1)}-${two(t.getDate())}`,
    time: `${two(t.getHours())}:${two(t.getMinutes())}`,
  }
}

/** A figure as it was typed, else as it is kept. */
const typedOr = (p: PullView, name: string, value: number | null): string =>
  p.typed[name] ?? (value === null ? '' : String(Math.round(value * 100) / 100))

export const formOf = (p: PullView): FactsForm => ({
  build_id: p.build_id,
  dyno_id: p.dyno_id,
  label: p.label,
  ...parted(p.pulled_at),
  standard_in_file: p.standard_in_file,
  temperature: typedOr(p, 'air_temperature_c', p.air_temperature_c),
  pressure: typedOr(p, 'air_pressure_kpa', p.air_pressure_kpa),
  humidity: humidityOf(p),
  declared: { ...p.declared },
})

/** Humidity as it was given: by itself, by the dew point or by a wet bulb. */
function humidityOf(p: PullView): string {
  const [dew, wet] = [p.typed['air_dew_point_c'], p.typed['air_wet_bulb_c']]
  if (dew) return `dew ${dew}`
  return wet ? `wet ${wet}` : typedOr(p, 'air_humidity_percent', p.air_humidity_percent)
}

/** "45 %", "dew 9 °C" or "wet 14 °C", each in its field. */
export function humidityFields(text: string) {
  const by = /^\s*(dew|wet)\s*(?:point|bulb)?\s*:?\s*(.*)$/i.exec(text)
  const figure = by?.[2] ?? text
  return {
    air_humidity_percent: by ? null : sent(figure),
    air_dew_point_c: by?.[1]?.toLowerCase() === 'dew' ? sent(figure) : null,
    air_wet_bulb_c: by?.[1]?.toLowerCase() === 'wet' ? sent(figure) : null,
  }
}

/** As it is sent; the moment as it was where day and time were left alone. */
export function factsOf(form: FactsForm, was?: string): Schemas['PullFacts'] {
  const before = was ? parted(was) : undefined
  const same = before?.date === form.date && before.time === form.time
  const at = new Date(`${form.date}T${form.time || '12:00'}`)
  return {
    build_id: form.build_id,
    dyno_id: form.dyno_id,
    pulled_at: same && was ? was : Number.isNaN(at.getTime()) ? form.date : at.toISOString(),
    label: form.label,
    standard_in_file: form.standard_in_file,
    air_temperature_c: sent(form.temperature),
    air_pressure_kpa: sent(form.pressure),
    ...humidityFields(form.humidity),
    declared: Object.fromEntries(Object.entries(form.declared).filter(([, text]) => text.trim())),
  }
}
