/** Keys of a screen: named once, shown on the buttons and in the list of keys, live while the screen is. */
import { onBeforeUnmount, onMounted, shallowReactive } from 'vue'

export interface Key {
  /** As `KeyboardEvent.key` says it. */
  key: string
  says: string
  run: () => void
}

const live = shallowReactive<Key[][]>([])

/** Keys of the screen that calls it. A key typed into a field belongs to the field. */
export function useKeys(keys: Key[]): void {
  onMounted(() => live.push(keys))
  onBeforeUnmount(() => {
    const at = live.indexOf(keys)
    if (at >= 0) live.splice(at, 1)
  })
}

/** Keys that are live, those of the innermost screen first. */
export const liveKeys = (): Key[] => live.toReversed().flat()

/** Whether a key press belongs to a field: any field, but an empty one marked `data-commands` lets letters through. */
export function belongsToField(event: KeyboardEvent): boolean {
  const field = event.target as HTMLInputElement | null
  if (!field?.matches('input, textarea, select, [contenteditable], [role=combobox], [role=listbox]'))
    return false
  return !(field.dataset['commands'] === 'yes' && field.value === '')
}

let afterG = false

/** The one listener: `g` and a letter go somewhere, other keys are the screen's. */
export function listen(goTo: (letter: string) => void): void {
  addEventListener('keydown', (event) => {
    if (event.ctrlKey || event.metaKey || event.altKey || belongsToField(event)) return
    if (document.querySelector('.p-dialog') && event.key !== 'Escape') return
    if (afterG) {
      afterG = false
      event.preventDefault()
      goTo(event.key)
      return
    }
    if (event.key === 'g') {
      afterG = true
      event.preventDefault()
      return
    }
    const found = live.flat().findLast((key) => key.key.toLowerCase() === event.key.toLowerCase())
    if (!found) return
    event.preventDefault()
    found.run()
  })
}
