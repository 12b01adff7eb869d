/** Where a form's refusal stands: its field is marked and brought to the hand. */
import { computed, inject, provide, type ComputedRef, type InjectionKey, type Ref } from 'vue'
import type { Problem } from '@/api/client'

const REFUSED: InjectionKey<Ref<string | undefined>> = Symbol('refused')

/** The form's problem, told to the fields inside it. */
export function provideRefusal(problem: Ref<Problem | undefined>): void {
  provide(
    REFUSED,
    computed(() => problem.value?.path ?? undefined),
  )
}

/** Whether a field's place was refused. A place that ends with a dash below is that of
 * several fields; a field without one never is. */
export function useRefused(place: () => string | undefined): ComputedRef<boolean> {
  const refused = inject(REFUSED, undefined)
  return computed(() => {
    const at = place()
    return !!at && (refused?.value === at || !!refused?.value?.startsWith(at.endsWith('_') ? at : `${at}.`))
  })
}
