import { beforeEach, describe, expect, it, vi } from 'vitest'
import { shallowRef } from 'vue'
import type { Schemas } from '@/api/client'
import { useCapture } from './capture'

const sent: { path: string; body: Record<string, unknown> }[] = []

beforeEach(() => {
  sent.length = 0
  vi.stubGlobal('fetch', async (request: Request) => {
    const { pathname: path } = new URL(request.url)
    if (request.body) sent.push({ path, body: (await request.json()) as Record<string, unknown> })
    return Response.json({ people: [], benches: [] })
  })
})

const reading = (id: string, taken_at: string, struck = false) => ({
  id,
  taken_at,
  struck: struck ? {} : null,
})
const rung = (cylinder: number, readings: object[] = []) => ({
  cylinder,
  before: { mean: readings.length ? { value: 200 } : null, readings },
  after: { mean: null, readings: [] },
})

function capturing(rungs: object[], more: object = {}) {
  const sheet = shallowRef({
    rungs,
    before_state_id: 's1',
    after_state_id: null,
    part_id: 'p',
    setup: { id: 'u', bench_id: 'b' },
    unit_code: 'cfm',
    reference_runner: null,
    ...more,
  } as unknown as Schemas['BenchSheet'])
  return useCapture('job', sheet)
}

describe('capturing on the bench', () => {
  it('goes on to the next runner without a figure, round the ladder', () => {
    const capture = capturing([rung(1), rung(2, [reading('a', '1')]), rung(3)])
    expect(capture.next(1)).toBe(3)
    expect(capture.next(3)).toBe(1)
    expect(capturing([rung(1, [reading('a', '1')]), rung(2, [reading('b', '2')])]).next(1)).toBe(2)
  })

  it('counts a figure that went out before the sheet tells of it, on its own side alone', async () => {
    const capture = capturing([rung(1), rung(2), rung(3)], { after_state_id: 's2' })
    capture.rounds.begin(2, 'rounds', true)
    await capture.keep(1, '201.6')
    await capture.keep(2, '199.1')
    expect(capture.next(2)).toBe(3)
    expect(capture.next(3)).toBe(3)
    await capture.keep(3, '203.0')
    expect([capture.next(3), capture.next(1)]).toEqual([1, 2])
    capture.side.value = 'after'
    expect(capture.next(0)).toBe(1)
    capture.rounds.end()
    expect(capture.next(3)).toBe(1)
    capture.side.value = 'before'
    expect(capture.next(3)).toBe(3)
  })

  it('stays with the reference runner where it stands for the others', async () => {
    const capture = capturing([rung(1), rung(2), rung(3)], { reference_runner: 2 })
    expect(capture.next(2)).toBe(2)
    await capture.chooseReference(4)
    expect(sent.at(-1)).toEqual({ path: '/api/jobs/job/reference', body: { version: 4, runner: null } })
  })

  it('knows the figure that was taken last, whichever runner it is of', () => {
    const rungs = [
      rung(1, [reading('late', '2026-03-02T09:09'), reading('struck', '2026-03-02T09:30', true)]),
      rung(2, [reading('early', '2026-03-02T09:01')]),
    ]
    expect(capturing(rungs).newest()).toMatchObject({ reading: { id: 'late' }, at: 1 })
    expect(capturing([rung(1)]).newest()).toBeUndefined()
  })

  it("sends a figure as typed, in the unit of its sheet, and says which dates are a table's", async () => {
    const capture = capturing([rung(1)])
    await capture.keep(1, '201,6')
    expect(sent[0]?.path).toMatch('/api/flow-readings/')
    expect(sent[0]?.body).toMatchObject({ typed: '201,6', default_unit: 'cfm', setup_id: 'u', dated: false })
    await capture.keep(1, '199.1', { takenAt: '2024-05-01T00:00:00Z' })
    expect(sent[1]?.body).toMatchObject({ taken_at: '2024-05-01T00:00:00Z', dated: true })
  })

  it('notes a plain set-up first where none was noted', async () => {
    const capture = capturing([rung(1)], { setup: null, previous: null })
    await capture.keep(1, '201.6')
    expect(sent.map((one) => one.path.split('/')[2])).toEqual(['benches', 'setups', 'flow-readings'])
    expect(sent[2]?.body['setup_id']).toBe(sent[1]?.path.split('/').at(-1))
  })

  it('takes the figures after on the state that the cut makes', async () => {
    const capture = capturing([rung(1, [reading('a', '1')]), rung(2, [reading('b', '2')])])
    capture.active.value = 2
    await capture.cut(2)
    expect([capture.side.value, capture.active.value]).toEqual(['after', 1])
    expect(sent[0]?.body).toMatchObject({ part_id: 'p', stage: 2 })
    await capture.keep(1, '214')
    expect(sent[1]?.body['part_state_id']).toBe(sent[0]?.path.split('/').at(-1))
  })
})
