import { expect, it } from 'vitest'
import { engineBody, readEngine } from './engineForm'
import { readJob } from './jobForm'
import { foldedOf, questionsOf } from './questions'

const blank = () => readEngine(undefined)

it('sends the cam by its durations alone, or by its events alone', () => {
  const form = { ...blank(), camBy: 'card', duration: '230', separation: '112', opens: '7', closes: '43' }
  expect(engineBody(form)).toMatchObject({
    inlet_opens_deg: null,
    cam: { inlet_duration_deg: '230', separation_deg: '112', centreline_deg: null },
  })
  expect(engineBody({ ...form, camBy: 'events' })).toMatchObject({ inlet_opens_deg: '7', cam: null })
})

it('sends the volumes instead of the ratio once they make one', () => {
  const form = { ...blank(), compression: '10.5', chamber: '50' }
  expect(engineBody(form).compression_ratio).toBe('10.5')
  expect(engineBody({ ...form, gasket: '1' }).compression_ratio).toBeNull()
})

it('takes seat timing for a lift of nothing', () => {
  expect(engineBody({ ...blank(), lift: ' Seat ' }).cam_lift_mm).toBe('0')
  expect(engineBody({ ...blank(), lift: '0.050 in' }).cam_lift_mm).toBe('0.050 in')
})

const asked = (posted: boolean, boosted = false) =>
  questionsOf(posted, { engine: { ...blank(), boosted }, job: readJob(undefined, undefined) }).map(
    (q) => q.name,
  )

it('asks for the boost of a boosted engine with what decides', () => {
  expect(asked(false, true)).toEqual(['engine', 'size', 'limit', 'band', 'boost', 'goal', 'fits'])
})

it('asks a posted part for no engine', () => {
  expect(asked(true)).toEqual(['goal'])
  expect(asked(false)).toEqual(['engine', 'size', 'limit', 'band', 'goal', 'fits'])
  const keys = foldedOf(false).map((q) => q.key)
  expect(new Set(keys).size).toBe(keys.length)
})
