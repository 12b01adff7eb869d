import type { OnScreen } from '@/frame/onScreen'

/** What is known of a calculation's fields on the screen that was left. One that asks for a stroke is of the engine: its
 * bore is the cylinder's. */
export function figuresFor(inputs: string[], from: OnScreen | undefined): Record<string, number> {
  const known = (inputs.includes('stroke_mm') ? from?.engine : from?.values) ?? {}
  return Object.fromEntries(
    inputs.flatMap((name): [string, number][] => (known[name] == null ? [] : [[name, known[name]]])),
  )
}

/** Names of a calculation's fields as labels: what it is, and the unit that its name ends with. */
const UNITS: [ending: string, unit: string][] = [
  ['_kg_m3', 'kg/m³'],
  ['_cc_min', 'cc/min'],
  ['_lb_hp_h', 'lb/(hp h)'],
  ['_g_kwh', 'g/kWh'],
  ['_kg_h', 'kg/h'],
  ['_lb_ft', 'lb·ft'],
  ['_kg_s', 'kg/s'],
  ['_ft_s', 'ft/s'],
  ['_n_m', 'N·m'],
  ['_m_s', 'm/s'],
  ['_mm2', 'mm²'],
  ['_inh2o', 'inH2O'],
  ['_percent', '%'],
  ['_cfm', 'CFM'],
  ['_kpa', 'kPa'],
  ['_rpm', 'rpm'],
  ['_deg', '°'],
  ['_mm', 'mm'],
  ['_ms', 'ms'],
  ['_hz', 'Hz'],
  ['_kw', 'kW'],
  ['_hp', 'hp'],
  ['_cc', 'cc'],
  ['_c', '°C'],
  ['_m', 'm'],
  ['_l', 'L'],
]
/** Fields that are a unit and nothing else. */
const WHOLE: Record<string, string> = {
  m3_h: 'm³/h',
  m3_s: 'm³/s',
  l_s: 'L/s',
  inh2o: 'inH2O',
  inhg: 'inHg',
  psi: 'psi',
  mbar: 'mbar',
  inches: 'in',
  litres: 'L',
}

export function fieldName(name: string): { words: string; unit: string } {
  const whole = WHOLE[name]
  if (whole) return { words: '', unit: whole }
  const [ending, unit] = UNITS.find(([end]) => name.endsWith(end)) ?? ['', '']
  const words = name.slice(0, name.length - ending.length).replaceAll('_', ' ')
  return { words: words.charAt(0).toUpperCase() + words.slice(1), unit }
}

/** A result with four digits: what is looked up is no measurement. */
export function shown(value: unknown): string {
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  if (typeof value !== 'number') return value == null ? '–' : String(value)
  const size = Math.abs(value)
  if (size !== 0 && (size < 1e-3 || size >= 1e6)) return value.toExponential(3).replace('-', '−')
  return Number(value.toPrecision(size >= 1000 ? 5 : 4))
    .toString()
    .replace('-', '−')
}
