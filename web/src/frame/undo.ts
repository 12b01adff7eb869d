/** What was just taken back or away, and how it comes back: the last one, until something else is done or time goes by. */
import { ref } from 'vue'
import { problemIn } from '@/api/client'

export interface Undo {
  /** What was done: "Build 'long tube' taken away". */
  words: string
  run: () => Promise<unknown>
}

/** So long it stays in sight. */
const STAYS_MS = 20_000
const last = ref<Undo>()
const failure = ref('')
let timer: ReturnType<typeof setTimeout> | undefined

export const useUndo = () => ({ last, failure, undo, forget })

export function offerUndo(words: string, run: () => Promise<unknown>): void {
  last.value = { words, run }
  failure.value = ''
  clearTimeout(timer)
  timer = setTimeout(forget, STAYS_MS)
}

function forget(): void {
  clearTimeout(timer)
  last.value = undefined
  failure.value = ''
}

async function undo(): Promise<void> {
  const one = last.value
  if (!one) return
  try {
    await one.run()
    forget()
  } catch (error) {
    failure.value = problemIn(error, 'Press Ctrl Z to try again.').detail
  }
}
