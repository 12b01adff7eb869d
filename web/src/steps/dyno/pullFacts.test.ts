import { describe, expect, it } from 'vitest'
import { factsOf, formOf, humidityFields, parted, type PullView } from './pullFacts'

const pull = {
  build_id: 'b',
  dyno_id: 'd',
  label: 'a.csv',
  pulled_at: '2026-03-02T14:05:30.000Z',
  standard_in_file: 'observed',
  air_temperature_c: 25,
  air_pressure_kpa: 99.8981,
  air_humidity_percent: 51.2,
  typed: { air_pressure_kpa: '29.5 inHg', air_dew_point_c: '57 °F' },
  declared: { fuel: '98' },
} as unknown as PullView

describe('what is said of a pull', () => {
  it('comes back as it was typed, and the moment as it was', () => {
    const form = formOf(pull)
    expect(form).toMatchObject({ temperature: '25', pressure: '29.5 inHg', humidity: 'dew 57 °F' })
    expect(factsOf(form, pull.pulled_at)).toMatchObject({
      pulled_at: pull.pulled_at,
      air_dew_point_c: '57 °F',
      air_humidity_percent: null,
      declared: { fuel: '98' },
    })
  })
  it('is another moment where day or time was changed', () => {
    const form = { ...formOf(pull), date: '2026-03-01' }
    const sent = factsOf(form, pull.pulled_at).pulled_at
    expect(parted(String(sent)).date).toBe('2026-03-01')
  })
  it('leaves out what was emptied', () => {
    expect(factsOf({ ...formOf(pull), declared: { fuel: ' ' } }).declared).toEqual({})
  })
})

it('takes humidity by itself, by dew point or by wet bulb', () => {
  expect(humidityFields('45 %')).toMatchObject({ air_humidity_percent: '45 %', air_dew_point_c: null })
  expect(humidityFields('Dew point: 9 °C')).toMatchObject({
    air_humidity_percent: null,
    air_dew_point_c: '9 °C',
  })
  expect(humidityFields('wet 14')).toMatchObject({ air_wet_bulb_c: '14' })
  expect(humidityFields('')).toEqual({
    air_humidity_percent: null,
    air_dew_point_c: null,
    air_wet_bulb_c: null,
  })
})
