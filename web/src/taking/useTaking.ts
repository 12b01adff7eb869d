/**
 * Taking a figure, on whatever screen: typed or from the bench, Enter keeps it, a question about it is answered by its
 * number or takes the figure back into the entry. What the figure is of, the screen says.
 */
import { computed, nextTick, ref, type Ref } from 'vue'
import type { Schemas } from '@/api/client'
import { answer, useOutbox, withdraw, type Write } from '@/api/outbox'
import { useSession } from '@/frame/session'
import { useLive, type LiveState } from './live'
import { tell } from './sound'

export interface Taking {
  bench: Ref<Schemas['BenchView'] | undefined>
  /** Whether a waiting write is the one of the place that is chosen. */
  isHere: (write: Write) => boolean
  /** Keep what was typed, or else what the bench shows. */
  keep: (typed: string, taken: LiveState | undefined) => Promise<void>
  /** Why nothing can be kept now, though there is a figure. */
  hindered?: () => boolean
  /** A question was answered: the screen goes on. */
  answered?: () => void
  /** Another place: the one after, or the one before. */
  step: (by: number) => void
  /** Keys that the screen has for itself while it asks something; whether one was. */
  onKey?: (event: KeyboardEvent) => boolean
  /** Escape, where nothing typed and no question is in the way. */
  leave?: () => boolean
}

export function useTaking(screen: Taking) {
  const { units } = useSession()
  const { writes } = useOutbox()
  const typed = ref('')
  const entry = ref<{ focus: () => void }>()
  const live = useLive(screen.bench, units)
  const problem = computed(() => writes.value.find((w) => w.problem && screen.isHere(w)))
  /** There is a figure, and nothing asks for an answer first. */
  const ready = computed(() => (!!typed.value.trim() || !!live.takeable.value) && !problem.value)

  function focusEntry(): void {
    void nextTick(() => entry.value?.focus())
  }

  async function keep(): Promise<void> {
    const text = typed.value.trim()
    const taken = text ? undefined : live.takeable.value
    if (!ready.value || screen.hindered?.()) return tell(false)
    typed.value = ''
    live.restart()
    tell()
    await screen.keep(text, taken)
  }

  /** The figure goes back into the entry: nothing typed is lost. */
  function takeBack(): void {
    const write = problem.value
    if (!write) return
    typed.value = String(write.body['typed'] || write.shown || '')
    withdraw(write.id)
    focusEntry()
  }

  function choosePatch(patch: Record<string, unknown>): void {
    const write = problem.value
    if (!write) return
    void answer(write.id, patch)
    screen.answered?.()
    focusEntry()
  }

  const offered = (number: number) => problem.value?.problem?.offers?.[number - 1]

  function pickOffer(number: number): void {
    const offer = offered(number)
    if (offer) choosePatch(offer.patch)
  }

  function onKey(event: KeyboardEvent): void {
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault()
      screen.step(event.key === 'ArrowDown' ? 1 : -1)
    } else if (event.key === 'Escape') {
      if (screen.leave?.()) return
      if (problem.value) takeBack()
      else typed.value = ''
    } else if (screen.onKey?.(event)) {
      event.preventDefault()
    } else if (!typed.value && offered(Number(event.key))) {
      event.preventDefault()
      pickOffer(Number(event.key))
    }
  }

  return { typed, entry, live, problem, ready, keep, takeBack, choosePatch, onKey, focusEntry }
}

export type TakingState = ReturnType<typeof useTaking>
