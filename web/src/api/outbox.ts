/**
 * Writes that must not be lost: they wait in the browser and go out in order, also after a reload. What the server
 * refuses or asks about is kept with its problem until somebody answers.
 */
import { computed, shallowRef } from 'vue'
import { Refused, request, type Problem } from './client'

export interface Write {
  id: string
  path: string
  body: Record<string, unknown>
  /** What it is about, for the screen that shows it while it waits: "job/state/cylinder". */
  about: string
  problem?: Problem
}

const KEY = 'elvarn-outbox'
const RETRY_MS = 2000

const writes = shallowRef<Write[]>(read())
const reachable = shallowRef(true)
let sending: Promise<void> | undefined
let retry: ReturnType<typeof setTimeout> | undefined
const sent = new Set<(write: Write) => void>()

function read(): Write[] {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? '[]') as Write[]
  } catch {
    return []
  }
}

function store(next: Write[]): void {
  writes.value = next
  localStorage.setItem(KEY, JSON.stringify(next))
}

/** Queue a write and send what waits. Resolves when everything that could be sent was. */
export function send(path: string, body: object, about: string): Promise<void> {
  const id = path.split('/').at(-1) ?? path
  store([...writes.value, { id, path, body: body as Record<string, unknown>, about }])
  return flush()
}

/** Send again with an offer's changes. */
export function answer(id: string, changes: Record<string, unknown>): Promise<void> {
  store(
    writes.value.map((w) =>
      w.id === id ? { ...w, body: { ...w.body, ...changes }, problem: undefined } : w,
    ),
  )
  return flush()
}

/** Give a refused write up; its figure is handed back to whoever asked. */
export function withdraw(id: string): void {
  store(writes.value.filter((w) => w.id !== id))
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
      await request('PUT', next.path, next.body)
    } catch (error) {
      if (error instanceof Refused) {
        store(writes.value.map((w) => (w.id === next.id ? { ...w, problem: error.problem } : w)))
        continue
      }
      reachable.value = false
      retry = setTimeout(() => void flush(), RETRY_MS)
      return
    }
    reachable.value = true
    store(writes.value.filter((w) => w.id !== next.id))
    sent.forEach((tell) => tell(next))
  }
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
