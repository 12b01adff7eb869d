import { afterEach, expect, it, vi } from 'vitest'
import { api, asBytes, newId, problemIn, Refused, told, Unreachable, whileReachable } from './client'

const answering = (status: number, body: object) =>
  vi.stubGlobal(
    'fetch',
    vi.fn(
      async () =>
        new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } }),
    ),
  )
const sent = () => vi.mocked(fetch).mock.calls.map(([request]) => request as Request)
const BOARD = () => told(api.GET('/api/board', { params: { query: { units: 'metric' } } }))

afterEach(() => vi.unstubAllGlobals())

it('gives what the server answers', async () => {
  answering(200, { count: 3 })
  expect(await BOARD()).toEqual({ count: 3 })
  expect(new URL(sent()[0]?.url ?? '').search).toBe('?units=metric')
})

it('tells a refusal from a server that is gone', async () => {
  answering(422, { detail: 'A flow of 0 can’t be a reading.', code: 'invalid' })
  await expect(BOARD()).rejects.toBeInstanceOf(Refused)
  answering(503, {})
  await expect(BOARD()).rejects.toBeInstanceOf(Unreachable)
  vi.stubGlobal('fetch', vi.fn().mockRejectedValue(new TypeError('Failed to fetch')))
  await expect(BOARD()).rejects.toBeInstanceOf(Unreachable)
})

it('tells a full disk from a server that is gone', async () => {
  answering(507, { detail: 'Make room on it.', code: 'no_room' })
  const full = await BOARD().catch((error: unknown) => error)
  expect(full).toBeInstanceOf(Unreachable)
  expect(problemIn(full, 'Check that it is running, then reload.').detail).toBe('Make room on it.')
})

it('gives the words of a server that refuses what is too large', async () => {
  answering(413, { detail: 'A file may have 20 MB.', code: 'too_large' })
  await expect(BOARD()).rejects.toThrow('A file may have 20 MB.')
})

it('sends files as they are and the rest as JSON', async () => {
  answering(200, {})
  const bytes = new Uint8Array([1, 2, 3]).buffer
  await told(api.POST('/api/dyno/preview', { params: { query: { name: 'a.csv' } }, ...asBytes(bytes) }))
  await told(
    api.PUT('/api/people/{person_id}', { params: { path: { person_id: '1' } }, body: { name: 'Tove' } }),
  )
  const [file, json] = sent()
  expect(new Uint8Array((await file?.arrayBuffer()) ?? [])).toEqual(new Uint8Array([1, 2, 3]))
  expect(file?.headers.get('content-type')).not.toBe('application/json')
  expect(await json?.text()).toBe('{"name":"Tove"}')
})

it('says what to do where the server is gone, gives its own words else, and lets bugs go on', () => {
  expect(problemIn(new Unreachable(), 'Try again.').detail).toBe('Elvarn does not answer. Try again.')
  const problem = { type: '', title: '', status: 422, code: 'invalid', detail: 'No.' }
  expect(problemIn(new Refused(problem), 'Try again.')).toBe(problem)
  expect(() => problemIn(new Error('a bug'), '')).toThrow('a bug')
})

it('keeps what is shown while the server is gone, and no other error', async () => {
  await whileReachable(async () => {
    throw new Unreachable('gone')
  })
  await expect(
    whileReachable(async () => {
      throw new Error('a bug')
    }),
  ).rejects.toThrow('a bug')
})

it('makes ids that differ', () => expect(newId()).not.toBe(newId()))
