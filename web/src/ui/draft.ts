/** What was typed and not yet kept: it survives a reload and a killed tab, in this browser alone. */
import { watch, type Ref } from 'vue'

const PREFIX = 'elvarn.draft.'

/**
 * Keep a draft of a form under the name of its place, and put back what lay there. A form as it began is no draft.
 * `value` is replaced as a whole or changed inside.
 */
export function useDraft<T>(place: string, value: Ref<T>): { forget: () => void; restored: boolean } {
  const key = PREFIX + place
  const begun = JSON.stringify(value.value)
  const kept = read(key)
  if (kept !== undefined) value.value = kept as T
  watch(
    value,
    (now) => {
      const text = JSON.stringify(now)
      if (text === begun) forget()
      else write(key, text)
    },
    { deep: true, flush: 'sync' },
  )
  function forget(): void {
    try {
      localStorage.removeItem(key)
    } catch {
      /* A browser that stores nothing has nothing to forget. */
    }
  }
  return { forget, restored: kept !== undefined }
}

function read(key: string): unknown {
  try {
    const text = localStorage.getItem(key)
    return text === null ? undefined : JSON.parse(text)
  } catch {
    return undefined
  }
}

function write(key: string, text: string): void {
  try {
    localStorage.setItem(key, text)
  } catch {
    /* A full or forbidden store: the form itself stays. */
  }
}
