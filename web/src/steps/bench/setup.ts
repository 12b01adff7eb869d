/** The set-up as a form holds it: everything typed is text until it is sent. */
import type { Schemas } from '@/api/client'
import { asTyped, sent } from '@/ui/figures'

type Setup = Schemas['SetupView']
export type SetupBody = Omit<Schemas['NewSetup'], 'person_id' | 'job_id'>

export const RADII = [
  { value: 'none', label: 'no radius' },
  { value: 'clay', label: 'clay radius' },
  { value: 'printed', label: 'printed radius' },
  { value: 'own', label: 'own entry' },
]
export const THROTTLES = [
  { value: 'off', label: 'off' },
  { value: 'as_sold', label: 'on, as sold' },
  { value: 'ported', label: 'on, ported' },
]
export const DIRECTIONS = [
  { value: 'in', label: 'intake direction' },
  { value: 'out', label: 'reverse flow' },
]
export const SEEN = [
  { value: null, label: 'not checked' },
  { value: true, label: 'fully open' },
  { value: false, label: 'stops short' },
]
/** What has to be blocked, with its key words. */
export const BLOCKED = ['other runners', 'injectors', 'vacuum ports']

export function formOf(setup: Setup | null | undefined, bench: string) {
  const items = setup?.items
  const text = (value: number | null | undefined, place: string) => asTyped(setup?.typed, place, value)
  return {
    bench_id: setup?.bench_id ?? bench,
    depression: setup ? `${setup.depression} ${setup.depression_unit}` : '28 inH2O',
    entry_radius: items?.entry_radius ?? 'none',
    entry_radius_mm: text(items?.entry_radius_mm, 'entry_radius_mm'),
    throttle: items?.throttle ?? 'off',
    opening_percent: text(items?.opening_percent, 'opening_percent'),
    blade_seen_open: items?.blade_seen_open ?? null,
    mounted: items?.mounted ?? '',
    blocked: items?.blocked ?? '',
    adapter: items?.adapter ?? '',
    clamps: items?.clamps ?? '',
    clock_hours: text(items?.clock_hours, 'clock_hours'),
    flaps: items?.flaps ?? '',
    valve_lift_mm: text(items?.valve_lift_mm, 'valve_lift_mm'),
    direction: items?.direction ?? 'in',
    temperature: text(setup?.air_temperature_c, 'air_temperature_c'),
    pressure: text(setup?.air_pressure_kpa, 'air_pressure_kpa'),
    humidity: text(setup?.air_humidity_percent, 'air_humidity_percent'),
  }
}
export type SetupForm = ReturnType<typeof formOf>

export function bodyOf(form: SetupForm, unit: string): SetupBody {
  const { temperature, pressure, humidity, ...rest } = form
  return {
    ...rest,
    depression_unit: unit,
    entry_radius_mm: sent(form.entry_radius_mm),
    opening_percent: sent(form.opening_percent),
    clock_hours: sent(form.clock_hours),
    valve_lift_mm: sent(form.valve_lift_mm),
    air_temperature_c: sent(temperature),
    air_pressure_kpa: sent(pressure),
    air_humidity_percent: sent(humidity),
  }
}

/** A list parted by commas, with one of its words put in or taken out. */
export function toggled(list: string, word: string): string {
  const words = list.split(',').map((w) => w.trim())
  const others = words.filter((w) => w && w.toLowerCase() !== word)
  return (others.length < words.filter(Boolean).length ? others : [...others, word]).join(', ')
}
export const holds = (list: string, word: string): boolean =>
  list.split(',').some((w) => w.trim().toLowerCase() === word)
