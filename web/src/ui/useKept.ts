/** A form over something that others may change too: kept as a whole, with its draft, its refusal and its ways on. */
import { computed, ref, type Ref } from 'vue'
import { problemIn, type Problem } from '@/api/client'
import { useEdited } from './draft'
import { staleWays } from './stale'

/** `send` keeps the form on a version; `again` asks for what is kept now and fills the form. */
export function useKept<T>(
  place: string,
  blank: () => T,
  send: (form: T, version: number) => Promise<unknown>,
  again: () => Promise<unknown>,
) {
  const edited = useEdited<T>(place)
  const form = computed(() => edited.form.value ?? blank()) as Ref<T>
  const problem = ref<Problem>()
  const kept = ref(false)

  /** Whether it was kept. */
  async function keep(): Promise<boolean> {
    kept.value = false
    try {
      await send(form.value, edited.version.value)
      problem.value = undefined
      kept.value = true
      edited.settled()
      await again()
      return true
    } catch (error) {
      problem.value = problemIn(error, 'Your entry is still here; press Enter to retry.')
      return false
    }
  }
  const undo = () => {
    edited.bringBack()
    return keep()
  }
  const stale = staleWays(problem, edited.version, keep, async () => {
    edited.givenUp()
    await again()
  })
  return { ...edited, form, problem, kept, keep, undo, stale }
}
