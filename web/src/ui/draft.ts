/** What was typed and not yet kept: it survives a reload, a newer sheet and a killed tab, in this browser alone. */
import { computed, ref, watch, type ComputedRef, type Ref } from 'vue'

const PREFIX = 'elvarn.draft.'

/**
 * Keep a draft of a form under the name of its place, and put back what lay there. A form as it began is no draft.
 * `value` is replaced as a whole or changed inside.
 */
export function useDraft<T>(place: string, value: Ref<T>): { restored: boolean } {
  const key = PREFIX + place
  const begun = JSON.stringify(value.value)
  const kept = read(key)
  if (kept !== undefined) value.value = kept as T
  watch(
    value,
    (now) => {
      const text = JSON.stringify(now)
      if (text === begun) drop(key)
      else write(key, text)
    },
    { deep: true, flush: 'sync' },
  )
  return { restored: kept !== undefined }
}

/** Put a draft there for a form that is not open: it is found when it is. */
export const putDraft = (place: string, value: unknown): void => write(PREFIX + place, JSON.stringify(value))

/** What was typed there is kept, or given up. */
export const forgetDraft = (place: string): void => drop(PREFIX + place)

export interface Edited<T> {
  /** Undefined until there is something to edit. */
  form: Ref<T | undefined>
  /** The version that the form was filled from: an edit is made on it, whatever came in meanwhile. */
  version: Ref<number>
  dirty: ComputedRef<boolean>
  /** Fill it from what is there now; what was typed stays. */
  refill: (fresh: T, version: number) => void
  /** What was typed is kept: the next filling is taken, and what stood there before can be brought back. */
  settled: () => void
  /** What was typed is given up: the next filling is taken. */
  givenUp: () => void
  /** Whether something was kept whose earlier state is known, and nothing was typed since. */
  undoable: ComputedRef<boolean>
  /** The state before the last keeping, in the form: it is kept like anything typed. */
  bringBack: () => void
}

/** A form over something that others may change too, with its draft. */
export function useEdited<T>(place: string): Edited<T> {
  const key = PREFIX + place
  const form = ref<T>() as Ref<T | undefined>
  const version = ref(0)
  const begun = ref('')
  const dirty = computed(() => form.value !== undefined && JSON.stringify(form.value) !== begun.value)

  function refill(fresh: T, now: number): void {
    const draft =
      form.value === undefined ? (read(key) as { form: T; version: number } | undefined) : undefined
    if (dirty.value) return
    begun.value = JSON.stringify(fresh)
    form.value = draft ? { ...fresh, ...draft.form } : fresh
    version.value = draft?.version ?? now
  }
  const earlier = ref<string>()
  function givenUp(): void {
    begun.value = JSON.stringify(form.value)
    drop(key)
  }
  function settled(): void {
    if (dirty.value) earlier.value = begun.value
    givenUp()
  }
  const undoable = computed(() => earlier.value !== undefined && !dirty.value)
  function bringBack(): void {
    if (earlier.value !== undefined) form.value = JSON.parse(earlier.value) as T
  }
  watch(
    form,
    (now) => {
      if (now === undefined) return
      if (dirty.value) write(key, JSON.stringify({ form: now, version: version.value }))
      else drop(key)
    },
    { deep: true, flush: 'sync' },
  )
  return { form, version, dirty, refill, settled, givenUp, undoable, bringBack }
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

function drop(key: string): void {
  try {
    localStorage.removeItem(key)
  } catch {
    /* A browser that stores nothing has nothing to forget. */
  }
}
