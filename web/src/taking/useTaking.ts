/**
 * Taking a figure, on whatever screen: typed or from the bench, Enter keeps it. A question about it is answered by Alt and
 * its number, or takes the figure back into the entry; a refusal leaves it there, selected. What the figure is of, the
 * screen says.
 */
import { computed, nextTick, ref, watch, type Ref } from 'vue'
import type { Schemas } from '@/api/client'
import { answer, useOutbox, withdraw, type Write } from '@/api/outbox'
import { useSession } from '@/frame/session'
import type { Problem } from '@/api/client'
import { toAnswers } from '@/frame/answers'
import { useDraft } from '@/ui/draft'
import { useLive, type LiveState } from './live'
import { tell } from './sound'

export interface Taking {
  /** The place whose draft the entry holds, where it outlives the screen. */
  draft: string
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
  /** Escape, where nothing typed and no question is in the way. */
  leave?: () => boolean
}

export function useTaking(screen: Taking) {
  const { units } = useSession()
  const { writes } = useOutbox()
  const typed = ref('')
  useDraft(screen.draft, typed)
  /** What was refused outright, and why: it stands in the entry until it is changed. */
  const refused = ref<{ text: string; problem: Problem }>()
  const entry = ref<{ focus: () => void; select: () => void }>()
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
    refused.value = undefined
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

  /** Refused, with nothing to choose from: it is typed again, from what was typed. */
  function correct(write: Write | undefined): void {
    const text = String(write?.body['typed'] ?? '')
    const why = write?.problem
    if (!why || why.offers?.length || why.code === 'failed' || !text || typed.value) return
    takeBack()
    refused.value = { text, problem: why }
    void nextTick(() => entry.value?.select())
  }
  watch(problem, correct)
  watch(typed, (text) => {
    if (text !== refused.value?.text) refused.value = undefined
  })

  /** Whether something asks for an answer. */
  const asked = (): boolean => !!problem.value?.problem?.offers?.length || !!screen.hindered?.()

  function choosePatch(patch: Record<string, unknown>): void {
    const write = problem.value
    if (!write) return
    void answer(write.id, patch)
    screen.answered?.()
    focusEntry()
  }

  function onKey(event: KeyboardEvent): void {
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault()
      if (event.key === 'ArrowDown' && asked() && toAnswers()) return
      screen.step(event.key === 'ArrowDown' ? 1 : -1)
    } else if (event.key === 'Escape') {
      if (screen.leave?.()) return
      if (problem.value) takeBack()
      else if (refused.value) refused.value = undefined
      else typed.value = ''
    }
  }

  return { typed, refused, entry, live, problem, ready, keep, takeBack, choosePatch, onKey, focusEntry }
}

export type TakingState = ReturnType<typeof useTaking>
