/** What the bench asks for besides a figure, one thing at a time, and how it is answered or left. */
import { ref } from 'vue'
import { withdraw } from '@/api/outbox'
import type { CheckKind, useChecks } from './checks'

export type Mode = 'read' | 'strike' | 'cut' | 'check' | 'gain' | 'rounds'

export function useBenchMode(
  checks: ReturnType<typeof useChecks>,
  cut: (stage: number | null) => Promise<void>,
  focusEntry: () => void,
) {
  const mode = ref<Mode>('read')

  function leaveQuestion(): void {
    mode.value = 'read'
    focusEntry()
  }

  async function cutTo(stage: number | null): Promise<void> {
    leaveQuestion()
    await cut(stage)
  }

  function chooseCheck(kind: CheckKind): void {
    checks.kind.value = kind
    if (kind !== 'plate') focusEntry()
  }

  function leaveCheck(): void {
    if (checks.problem.value) withdraw(checks.problem.value.id)
    checks.kind.value = undefined
    leaveQuestion()
  }

  /** Whether no figure can be kept: something else is asked. */
  const hinders = (): boolean =>
    ['strike', 'cut', 'gain', 'rounds'].includes(mode.value) || (mode.value === 'check' && !checks.kind.value)

  /** Escape: what is asked is left before what was typed. */
  function leave(): boolean {
    if (mode.value === 'cut') mode.value = 'read'
    else if (mode.value === 'check') leaveCheck()
    else return false
    return true
  }

  return { mode, hinders, leaveQuestion, cutTo, chooseCheck, leaveCheck, leave }
}
