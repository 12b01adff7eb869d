/**
 * What waits in the browser to be sent: each write under a key of its own, so that no tab overwrites what another
 * queued. The keys are in the order in which they were queued.
 */
import { problemOf, type Problem } from './client'

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
  /** Where it is kept; given when it is. */
  key?: string
  path: string
  body: Record<string, unknown>
  about: About
  /** What stands for it on the screen while it waits, where nothing was typed. */
  shown?: string
  problem?: Problem
}

const PREFIX = 'elvarn-outbox:'
const BEFORE = 'elvarn-outbox' // one list of all, as it was kept before
/** What the browser's own storage did not take: it is there until the tab is closed. */
const unstored = new Map<string, Write>()
let count = 0

/** Whether a key of the browser's storage is a write's. */
export const isQueued = (key: string | null): key is string => !!key?.startsWith(PREFIX)

/** Every write that waits, in the order in which they were queued. */
export function stored(): Write[] {
  bringOver()
  const keys = Object.keys(localStorage).filter((key) => isQueued(key) && !unstored.has(key))
  const found = keys.map((key) => read(key, localStorage.getItem(key) ?? ''))
  return [...found, ...unstored.values()].sort((a, b) => ((a.key ?? '') < (b.key ?? '') ? -1 : 1))
}

/** Keep a write, at the end of the queue or where it stands already. */
export function keep(write: Write): void {
  const key = write.key ?? nextKey(write.id)
  try {
    localStorage.setItem(key, JSON.stringify({ ...write, key: undefined }))
    unstored.delete(key)
  } catch {
    unstored.set(key, { ...write, key })
  }
}

export function drop(write: Write): void {
  if (!write.key) return
  unstored.delete(write.key)
  localStorage.removeItem(write.key)
}

function nextKey(id: string): string {
  count += 1
  return `${PREFIX}${Date.now().toString().padStart(15, '0')}-${count.toString().padStart(6, '0')}-${id}`
}

/** What is kept under a key, as it is written there. */
export function read(key: string, text: string): Write {
  try {
    const write = JSON.parse(text) as Partial<Write> | null
    if (write?.id && write.path && write.body && write.about) return { ...(write as Write), key }
  } catch {
    // it is told as what it is
  }
  const problem: Problem = problemOf(
    'The browser holds something here that can not be read any more.',
    'unreadable',
  )
  return { id: key, key, path: '', body: { typed: text }, about: { job: '', what: 'flow' }, problem }
}

/** What an earlier version kept as one list. */
function bringOver(): void {
  const text = localStorage.getItem(BEFORE)
  if (text === null) return
  localStorage.removeItem(BEFORE)
  try {
    const list = JSON.parse(text) as unknown
    if (Array.isArray(list)) (list as Write[]).forEach((write) => keep({ ...write, key: undefined }))
  } catch {
    // it was no queue
  }
}
