import { afterEach, describe, expect, it, vi } from 'vitest'
import { dropped, guessBuild, usePending } from './mapping'

afterEach(() => vi.unstubAllGlobals())

const design = (build_id: string, name: string, is_stock = false, pulls = 0) => ({
  build_id,
  name,
  is_stock,
  pulls,
  hue: 0,
  dash: 0,
})

describe('whose pull a file is', () => {
  const stock = design('s', 'stock', true)
  const ported = design('p', 'stage 2')

  it('goes by the name of the file', () => {
    expect(guessBuild('Stage 2 run 3.csv', [stock, ported], [])).toBe('p')
    expect(guessBuild('stock_run.csv', [stock, ported], ['s'])).toBe('s')
    const larger = design('l', 'stage 2, throttle 70')
    expect(guessBuild('stage_2-throttle70 a.csv', [stock, ported, larger], [])).toBe('l')
  })
  it('takes stock first where the name says nothing', () => {
    expect(guessBuild('run1.csv', [stock, ported], [])).toBe('s')
    expect(guessBuild('run2.csv', [stock, ported], ['s'])).toBe('p')
    expect(guessBuild('run2.csv', [{ ...stock, pulls: 1 }, ported], [])).toBe('p')
  })
  it('has only stock before anything was cut', () => {
    expect(guessBuild('run2.csv', [{ ...stock, pulls: 1 }], [])).toBe('')
  })
  it('compares a posted part with how it came', () => {
    expect(guessBuild('run.csv', [design('a', 'as received'), ported], [])).toBe('a')
  })
})

it('maps one file by hand without touching the next', async () => {
  const preview = {
    digest: 'd',
    columns: [],
    mapping: null,
    findings: [],
    stated: { air: {}, standard: '' },
    runs: [],
  }
  vi.stubGlobal('fetch', async () => new Response(JSON.stringify(preview), { status: 200 }))
  const { pending, look } = usePending('job')
  await look(dropped(new File(['1'], 'a.csv')), 's', 'd')
  Object.assign(pending.value[0]!.mapping, { speed_column: 4 })
  await look(dropped(new File(['2'], 'b.csv')), 's', 'd')
  expect(pending.value.map((p) => p.mapping.speed_column)).toEqual([4, 0])
})

it('makes a pull of each sweep of a file, in the air that the file says', async () => {
  const mapping = {
    speed_column: 0,
    torque_column: 1,
    torque_unit: 'N·m',
    power_column: null,
    power_unit: '',
  }
  const run = (first_row: number) => ({ mapping, first_row, last_row: first_row + 90, low: 2500, high: 7000 })
  const preview = {
    digest: 'd',
    columns: [],
    mapping,
    findings: [],
    stated: { air: { air_temperature_c: '77 °F' }, standard: 'sae_j607' },
    runs: [run(0), run(120)],
  }
  vi.stubGlobal('fetch', async () => new Response(JSON.stringify(preview), { status: 200 }))
  const { pending, look } = usePending('job')
  await look(dropped(new File(['1'], 'two.csv')), 's', 'd')
  expect(pending.value.map((p) => [p.name, p.first, p.last])).toEqual([
    ['two.csv, run 1', '1', '91'],
    ['two.csv, run 2', '121', '211'],
  ])
  expect(pending.value[1]!.facts).toMatchObject({ temperature: '77 °F', standard_in_file: 'sae_j607' })
  expect(new Set(pending.value.map((p) => p.id)).size).toBe(2)
})
