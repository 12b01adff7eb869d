import { afterEach, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { fill, get, newId, Refused, request, Unreachable, whileReachable } from './client'

const answering = (status: number, body: object) =>
  vi.stubGlobal(
    'fetch',
    vi.fn(async () => new Response(JSON.stringify(body), { status })),
  )

afterEach(() => vi.unstubAllGlobals())

it('gives what the server answers', async () => {
  answering(200, { count: 3 })
  expect(await get('/api/board')).toEqual({ count: 3 })
})

it('tells a refusal from a server that is gone', async () => {
  answering(422, { detail: 'A flow of 0 can’t be a reading.', code: 'invalid' })
  await expect(get('/api/x')).rejects.toBeInstanceOf(Refused)
  answering(503, {})
  await expect(get('/api/x')).rejects.toBeInstanceOf(Unreachable)
  vi.stubGlobal('fetch', vi.fn().mockRejectedValue(new TypeError('Failed to fetch')))
  await expect(get('/api/x')).rejects.toBeInstanceOf(Unreachable)
})

it('sends files as they are and the rest as JSON', async () => {
  answering(200, {})
  const bytes = new ArrayBuffer(3)
  await request('POST', '/api/dyno/preview', bytes)
  await request('PUT', '/api/jobs/1', { part: 'Manifold' })
  const [file, json] = vi.mocked(fetch).mock.calls
  expect(file?.[1]?.body).toBe(bytes)
  expect(json?.[1]?.body).toBe('{"part":"Manifold"}')
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

it('shows the answer to the latest question, whichever is answered first', async () => {
  const target = ref<string>()
  let late: (answer: string) => void = () => undefined
  const first = fill(target, new Promise<string>((resolve) => (late = resolve)))
  await fill(target, Promise.resolve('second'))
  late('first')
  await first
  expect(target.value).toBe('second')
  await fill(target, Promise.resolve('third'))
  expect(target.value).toBe('third')
})
