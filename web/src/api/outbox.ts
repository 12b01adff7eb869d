/**
 * Writes that must not be lost: they wait in the browser and go out in order, also after a reload. What the server
 * refuses or asks about is kept with its problem until somebody answers.
 */
import { computed, shallowRef } from 'vue'
import { api, Failed, problemOf, Refused, told, Unreachable, type Problem } from './client'
import { drop, isQueued, keep, read, stored, type About, type Write } from './queue'
import type { paths } from './schema'

export type { About, Write } from './queue'

type Puts = { [P in keyof paths]: paths[P] extends { put: object } ? P : never }[keyof paths]
type BodyOf<P extends Puts> = paths[P] extends {
  put: { requestBody: { content: { 'application/json': infer Body } } }
}
  ? Body
  : never

const RETRY_MS = 2000
/** So often a write may make the server fall before it is set aside: what comes after it does not wait for it. */
const FALLS = 3
const TRY_AGAIN = { label: 'Try again', patch: {} }
const SET_ASIDE: Problem = {
  ...problemOf('Elvarn fell over this. It is kept here, and was not delivered.', 'failed'),
  offers: [TRY_AGAIN],
}

const writes = shallowRef<Write[]>(stored())
const reachable = shallowRef(true)
/** Why nothing goes out: the server's own word for it. */
const reason = shallowRef('')
let sending: Promise<void> | undefined
let retry: ReturnType<typeof setTimeout> | undefined
const sent = new Set<(write: Write) => void>()
const falls = new Map<string, number>()

/**
 * One tab sends at a time, whichever. The browser tells the others a moment later, so that a write may still go out
 * twice: its id is made here, and the server keeps it once.
 */
async function alone(work: () => Promise<void>): Promise<void> {
  const locks = navigator.locks as LockManager | undefined
  if (locks) await locks.request('elvarn-outbox', work)
  else await work()
}

function refresh(): void {
  writes.value = stored()
}

/** Queue a write under an id made here, and send what waits. Resolves when everything that could be sent was. */
export function send<P extends Puts>(
  path: P,
  id: string,
  body: BodyOf<P>,
  about: About,
  shown?: string,
): Promise<void> {
  const at = path.replace(/\{\w+\}/, id)
  keep({ id, path: at, body: body as Record<string, unknown>, about, shown })
  refresh()
  return flush()
}

/** Send again with an offer's changes. */
export function answer(id: string, changes: Record<string, unknown>): Promise<void> {
  for (const write of stored().filter((w) => w.id === id && w.path))
    keep({ ...write, body: { ...write.body, ...changes }, problem: undefined })
  refresh()
  return flush()
}

/** Give a refused write up; its figure is handed back to whoever asked. */
export function withdraw(id: string): void {
  for (const write of stored().filter((w) => w.id === id)) drop(write)
  refresh()
}

export function flush(): Promise<void> {
  sending ??= alone(sendAll).finally(() => (sending = undefined))
  return sending
}

async function sendAll(): Promise<void> {
  clearTimeout(retry)
  for (;;) {
    refresh()
    const next = writes.value.find((w) => !w.problem)
    if (!next) {
      reachable.value = true // nothing waits: another tab may have delivered it
      return
    }
    try {
      // The description typed it when it was queued; what was stored has its address only.
      await told(api.PUT(next.path as never, { body: next.body as never } as never))
    } catch (error) {
      const problem = error instanceof Refused ? error.problem : fallen(next.id, error)
      if (problem) {
        keep({ ...next, problem })
        continue
      }
      reachable.value = false
      reason.value = error instanceof Unreachable ? error.code : 'unreachable'
      retry = setTimeout(() => void flush(), RETRY_MS)
      return
    }
    reachable.value = true
    drop(next)
    refresh()
    sent.forEach((tell) => tell(next))
  }
}

/** The problem with which a write is set aside, once the server fell over it often enough. */
function fallen(id: string, error: unknown): Problem | undefined {
  if (!(error instanceof Failed)) return undefined
  const count = (falls.get(id) ?? 0) + 1
  falls.set(id, count)
  if (count < FALLS) return undefined
  falls.delete(id)
  return SET_ASIDE
}

export function useOutbox() {
  return {
    writes,
    reachable,
    reason,
    /** What was set aside, or refused: it waits for somebody's answer. */
    aside: computed(() => writes.value.filter((w) => w.problem)),
    waiting: computed(() => writes.value.filter((w) => !w.problem).length),
    /** Be told of each write that went out; returns how to stop. */
    onSent(tell: (write: Write) => void): () => void {
      sent.add(tell)
      return () => sent.delete(tell)
    },
  }
}

addEventListener('online', () => void flush())
addEventListener('storage', (event) => {
  refresh()
  // Another tab delivered it: what is shown here has changed too.
  if (!isQueued(event.key) || event.newValue !== null) return
  if (!reachable.value) void flush()
  const write = read(event.key, event.oldValue ?? '')
  sent.forEach((tell) => tell(write))
})
