/** Where a form's refusal stands: its field is marked and brought to the hand. */
import { computed, inject, provide, ref, type ComputedRef, type InjectionKey, type Ref } from 'vue'
import type { Problem } from '@/api/client'

interface Refusal {
  path: Ref<string | undefined>
  noticed: Ref<boolean>
}
const REFUSED: InjectionKey<Refusal> = Symbol('refused')

/** The form's problem, told to the fields inside it; or one that was only noticed while somebody types. */
export function provideRefusal(problem: Ref<Problem | undefined>, noticed: Ref<boolean> = ref(false)): void {
  provide(REFUSED, { path: computed(() => problem.value?.path ?? undefined), noticed })
}

/**
 * Whether a field's place was refused, and whether it is to take the cursor: not while somebody types, or the next key
 * would take the place of what was typed. A place that ends with a dash below is that of several fields; a field
 * without one never is.
 */
export function useRefused(
  place: () => string | undefined,
): Record<'refused' | 'brought', ComputedRef<boolean>> {
  const refusal = inject(REFUSED, undefined)
  const refused = computed(() => {
    const [at, path] = [place(), refusal?.path.value]
    return !!at && (path === at || !!path?.startsWith(at.endsWith('_') ? at : `${at}.`))
  })
  return { refused, brought: computed(() => refused.value && !refusal?.noticed.value) }
}
