/** What the screen that was just left shows: a calculation opens with it, and can hand its result back. */
import { onBeforeUnmount, shallowRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'

export interface OnScreen {
  /** What its figures are of, in words. */
  of: string
  /** Figures by the names of a calculation's fields; those of the engine apart, for both have a bore. */
  values: Record<string, number | undefined>
  engine?: Record<string, number | undefined>
  /** Where a result can be put: the units that it takes, and what is typed there. */
  takes?: { units: string[]; put: (typed: string) => void }
}

const left = shallowRef<OnScreen & { path: string }>()

/** Tell, on leaving, what the screen that calls it shows. */
export function useOnScreen(tell: () => OnScreen | undefined): void {
  const path = useRoute().fullPath
  onBeforeUnmount(() => {
    const shown = tell()
    left.value = shown && { ...shown, path }
  })
}

/** What the screen shows to which `back` leads; nothing where that is another one. */
export function whereOneCameFrom(): OnScreen | undefined {
  const back = useRouter().options.history.state['back']
  return left.value?.path === back ? left.value : undefined
}
