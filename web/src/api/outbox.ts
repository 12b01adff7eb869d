/**
 * Writes that must not be lost: they wait in the browser and go out in order, also after a reload. What the server
 * refuses or asks about is kept with its problem until somebody answers.
 */
import { useStorage } from '@vueuse/core'
import { computed, shallowRef } from 'vue'
import { api, Failed, problemOf, Refused, told, type Problem } from './client'
import type { paths } from './schema'

/** What a write is about, for the screen that shows it while it waits. */
export interface About {
  job: string
  what: 'bench' | 'setup' | 'flow' | 'strike' | 'cut' | 'check' | 'point'
  /** The part's state and the runner that a figure is of. */
  state?: string
  cylinder?: number
  /** The test and the point that a figure is of. */
  plan?: string
  point?: number
}

export interface Write {
  id: string
  path: string
  body: Record<string, unknown>
  about: About
  /** What stands for it on the screen while it waits, where nothing was typed. */
  shown?: string
  problem?: Problem
}

type Puts = { [P in keyof paths]: paths[P] extends { put: object } ? P : never }[keyof paths]
type BodyOf<P extends Puts> = paths[P] extends {
  put: { requestBody: { content: { 'application/json': infer Body } } }
}
  ? Body
  : never

const RETRY_MS = 2000
/** So often a write may make the server fall before it is set aside: what comes after it does not wait for it. */
const FALLS = 3
const SET_ASIDE: Problem = {
  ...problemOf('Elvarn fell over this. It is kept here, and was not delivered.', 'failed'),
  offers: [{ label: 'Try again', patch: {} }],
}
const writes = useStorage<Write[]>('elvarn-outbox', [], undefined, {
  shallow: true,
  flush: 'sync',
  onError: () => undefined, // what can't be read is no queue
})
if (!Array.isArray(writes.value)) writes.value = []
const reachable = shallowRef(true)
let sending: Promise<void> | undefined
let retry: ReturnType<typeof setTimeout> | undefined
const sent = new Set<(write: Write) => void>()
const falls = new Map<string, number>()

/** Queue a write under an id made here, and send what waits. Resolves when everything that could be sent was. */
export function send<P extends Puts>(
  path: P,
  id: string,
  body: BodyOf<P>,
  about: About,
  shown?: string,
): Promise<void> {
  const at = path.replace(/\{\w+\}/, id)
  writes.value = [...writes.value, { id, path: at, body: body as Record<string, unknown>, about, shown }]
  return flush()
}

/** Send again with an offer's changes. */
export function answer(id: string, changes: Record<string, unknown>): Promise<void> {
  writes.value = writes.value.map((w) =>
    w.id === id ? { ...w, body: { ...w.body, ...changes }, problem: undefined } : w,
  )
  return flush()
}

/** Give a refused write up; its figure is handed back to whoever asked. */
export function withdraw(id: string): void {
  writes.value = writes.value.filter((w) => w.id !== id)
}

export function flush(): Promise<void> {
  sending ??= sendAll().finally(() => (sending = undefined))
  return sending
}

async function sendAll(): Promise<void> {
  clearTimeout(retry)
  for (;;) {
    const next = writes.value.find((w) => !w.problem)
    if (!next) return
    try {
      // The description typed it when it was queued; what was stored has its address only.
      await told(api.PUT(next.path as never, { body: next.body as never } as never))
    } catch (error) {
      const problem = error instanceof Refused ? error.problem : fallen(next.id, error)
      if (problem) {
        writes.value = writes.value.map((w) => (w.id === next.id ? { ...w, problem } : w))
        continue
      }
      reachable.value = false
      retry = setTimeout(() => void flush(), RETRY_MS)
      return
    }
    reachable.value = true
    writes.value = writes.value.filter((w) => w.id !== next.id)
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
    waiting: computed(() => writes.value.filter((w) => !w.problem).length),
    /** Be told of each write that went out; returns how to stop. */
    onSent(tell: (write: Write) => void): () => void {
      sent.add(tell)
      return () => sent.delete(tell)
    },
  }
}

addEventListener('online', () => void flush())
