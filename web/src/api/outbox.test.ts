import { afterEach, beforeEach, expect, it, vi } from 'vitest'

type Reply = { status: number; body?: object } | 'gone'

/** A server that answers as told, in order, and notes what it got. */
function server(replies: Reply[]) {
  const got: string[] = []
  vi.stubGlobal('fetch', async (request: Request) => {
    const reply = replies.shift() ?? { status: 200, body: {} }
    if (reply === 'gone') throw new TypeError('Failed to fetch')
    const { typed } = (await request.json()) as { typed: string }
    got.push(`${request.url.split('/').at(-1)} ${typed}`)
    const headers = { 'content-type': 'application/json' }
    return new Response(JSON.stringify(reply.body ?? {}), { status: reply.status, headers })
  })
  return got
}

const QUESTION = { type: '', title: '', status: 422, code: 'ten_times', detail: 'Ten times?', offers: [] }

/** A runner's figure as the bench sends it. */
function flow(id: string, typed: string, cylinder: number) {
  const body = {
    person_id: 'p',
    job_id: 'j',
    setup_id: 's',
    part_state_id: 'b',
    cylinder,
    typed,
    taken_at: '2026-03-02T09:00:00Z',
  }
  const about = { job: 'j', what: 'flow' as const, state: 'b', cylinder }
  return ['/api/flow-readings/{reading_id}' as const, id, body, about] as const
}

async function fresh() {
  vi.resetModules()
  return await import('./outbox')
}

beforeEach(() => {
  localStorage.clear()
  vi.useFakeTimers()
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

it('sends at once and forgets what was kept', async () => {
  const got = server([])
  const { send, useOutbox } = await fresh()
  await send(...flow('1', '201.6', 1))
  expect(got).toEqual(['1 201.6'])
  expect(useOutbox().writes.value).toEqual([])
})

it('keeps what could not be sent, tries again, and sends in order', async () => {
  const got = server(['gone'])
  const { send, useOutbox } = await fresh()
  await send(...flow('1', '201.6', 1))
  expect(useOutbox().reachable.value).toBe(false)
  server(['gone'])
  await send(...flow('2', '199.1', 2))
  expect(useOutbox().waiting.value).toBe(2)
  const later = server([])
  await vi.advanceTimersByTimeAsync(2100)
  expect(got).toEqual([])
  expect(later).toEqual(['1 201.6', '2 199.1'])
  expect(useOutbox().reachable.value).toBe(true)
})

it('takes a server that fell over for one that is gone', async () => {
  server([{ status: 500 }])
  const { send, useOutbox } = await fresh()
  await send(...flow('1', '201.6', 1))
  expect(useOutbox().waiting.value).toBe(1)
})

it('survives a reload', async () => {
  server(['gone'])
  const before = await fresh()
  await before.send(...flow('1', '201.6', 1))
  const got = server([])
  const after = await fresh()
  expect(after.useOutbox().waiting.value).toBe(1)
  await after.flush()
  expect(got).toEqual(['1 201.6'])
})

it('keeps a question with its figure and lets the next ones pass', async () => {
  const got = server([{ status: 422, body: QUESTION }, { status: 200 }])
  const { send, useOutbox } = await fresh()
  await send(...flow('1', '2010', 1))
  await send(...flow('2', '199.1', 2))
  expect(got).toEqual(['1 2010', '2 199.1'])
  expect(useOutbox().writes.value.map((w) => [w.id, w.problem?.code])).toEqual([['1', 'ten_times']])
})

it('sends again with the answer to a question', async () => {
  const got = server([{ status: 422, body: QUESTION }])
  const { send, answer, useOutbox } = await fresh()
  await send(...flow('1', '2010', 1))
  await answer('1', { typed: '201' })
  expect(got).toEqual(['1 2010', '1 201'])
  expect(useOutbox().writes.value).toEqual([])
})

it('gives a refused figure back', async () => {
  server([{ status: 422, body: QUESTION }])
  const { send, withdraw, useOutbox } = await fresh()
  await send(...flow('1', '2010', 1))
  withdraw('1')
  expect(useOutbox().writes.value).toEqual([])
  expect(localStorage.length).toBe(0)
})

it('tells who listens what went out', async () => {
  server([])
  const { send, useOutbox } = await fresh()
  const heard: (number | undefined)[] = []
  const stop = useOutbox().onSent((write) => heard.push(write.about.cylinder))
  await send(...flow('1', '201.6', 1))
  stop()
  await send(...flow('2', '199.1', 2))
  expect(heard).toEqual([1])
})

it('sets nonsense in the browser aside, and sends what comes after it', async () => {
  localStorage.setItem('elvarn-outbox:000000000000001-000001-x', 'not json')
  const got = server([])
  const { send, useOutbox, withdraw } = await fresh()
  await send(...flow('1', '201.6', 1))
  expect(got).toEqual(['1 201.6'])
  const [nonsense] = useOutbox().aside.value
  expect([nonsense?.problem?.code, nonsense?.body]).toEqual(['unreadable', { typed: 'not json' }])
  withdraw(nonsense?.id ?? '')
  expect(localStorage.length).toBe(0)
})

it('brings over what waited in one list before', async () => {
  const [, id, body, about] = flow('1', '201.6', 1)
  const waited = [{ id, path: '/api/flow-readings/1', body, about }]
  localStorage.setItem('elvarn-outbox', JSON.stringify(waited))
  const got = server([])
  const { flush, useOutbox } = await fresh()
  expect(useOutbox().waiting.value).toBe(1)
  await flush()
  expect(got).toEqual(['1 201.6'])
  expect(localStorage.length).toBe(0)
})

it('starts empty where that list was none', async () => {
  localStorage.setItem('elvarn-outbox', 'not json')
  const { useOutbox } = await fresh()
  expect(useOutbox().writes.value).toEqual([])
})

it('keeps what two tabs queue without a connection, and each goes out once, in order', async () => {
  let held: Promise<void> = Promise.resolve()
  const request = (_: string, work: () => Promise<void>) => (held = held.then(work))
  vi.stubGlobal('navigator', { ...navigator, locks: { request } })
  server(Array<Reply>(10).fill('gone'))
  const [one, two] = [await fresh(), await fresh()]
  for (const [tab, id, cylinder] of [
    [one, '1', 1],
    [two, '2', 2],
    [one, '3', 3],
  ] as const) {
    await tab.send(...flow(id, '201.6', cylinder))
    await vi.advanceTimersByTimeAsync(1) // a person types one after the other
  }
  expect(localStorage.length).toBe(3)
  const got = server([])
  await Promise.all([one.flush(), two.flush()])
  expect(got).toEqual(['1 201.6', '2 201.6', '3 201.6'])
  expect(localStorage.length).toBe(0)
})

it('keeps what the browser has no room for while the tab is open', async () => {
  server(['gone'])
  const { flush, send, useOutbox } = await fresh()
  const full = vi.spyOn(Storage.prototype, 'setItem').mockImplementation(() => {
    throw new DOMException('full', 'QuotaExceededError')
  })
  await send(...flow('1', '201.6', 1))
  full.mockRestore()
  expect(useOutbox().waiting.value).toBe(1)
  const got = server([])
  await flush()
  expect(got).toEqual(['1 201.6'])
  expect(useOutbox().writes.value).toEqual([])
})

it('says why nothing goes out', async () => {
  server([{ status: 507, body: { detail: 'Make room on it.', code: 'no_room' } }])
  const { send, useOutbox } = await fresh()
  await send(...flow('1', '201.6', 1))
  expect([useOutbox().reachable.value, useOutbox().reason.value]).toEqual([false, 'no_room'])
})

it('sets a write aside that the server falls over, and sends what comes after it', async () => {
  const fall = { status: 500 }
  const got = server([fall, fall, fall])
  const { answer, flush, send, useOutbox } = await fresh()
  await send(...flow('1', '201.6', 1))
  await send(...flow('2', '199.1', 2))
  await vi.advanceTimersByTimeAsync(2000)
  await flush()
  expect(got).toEqual(['1 201.6', '1 201.6', '1 201.6', '2 199.1'])
  expect(useOutbox().writes.value.map((w) => [w.id, w.problem?.code])).toEqual([['1', 'failed']])
  await answer('1', {})
  expect(got.at(-1)).toBe('1 201.6')
  expect(useOutbox().writes.value).toEqual([])
})

it('waits for a server that is away, however long', async () => {
  const away = { status: 503 }
  const got = server(Array<Reply>(8).fill(away))
  const { send, useOutbox } = await fresh()
  await send(...flow('1', '201.6', 1))
  await vi.advanceTimersByTimeAsync(2000 * 8)
  expect(got).toHaveLength(9)
  expect(useOutbox().writes.value).toEqual([])
})
