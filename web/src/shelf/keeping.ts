/** A form that is kept as a whole: it says that it was, or what is in the way; what was typed stays. */
import { ref, type Ref } from 'vue'
import { problemIn, type Problem } from '@/api/client'

export interface Keeping {
  problem: Ref<Problem | undefined>
  kept: Readonly<Ref<boolean>>
  keep: (send: () => Promise<unknown>) => Promise<void>
}

/** `again` asks for what is kept now. */
export function useKeeping(again: () => Promise<void>): Keeping {
  const problem = ref<Problem>()
  const kept = ref(false)

  async function keep(send: () => Promise<unknown>): Promise<void> {
    kept.value = false
    try {
      await send()
      await again()
      problem.value = undefined
      kept.value = true
    } catch (error) {
      problem.value = problemIn(error, 'Your entry is still here.')
    }
  }

  return { problem, kept, keep }
}
