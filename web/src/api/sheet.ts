/** What a screen shows: asked for at once, again when what it was asked with changes, and whenever wanted. */
import { until, useAsyncState } from '@vueuse/core'
import { onScopeDispose, ref, watch, type Ref, type WatchSource } from 'vue'
import { problemIn, Unreachable } from './client'

/** A server that was away is asked again by itself. */
const AGAIN_MS = 2000

export interface Sheet<T> {
  sheet: Readonly<Ref<T | undefined>>
  /** Why there is nothing to show. */
  failure: Readonly<Ref<string>>
  /** Ask again, until what is shown is the answer to the last question. What was shown stays meanwhile. */
  load: () => Promise<void>
  /** The first answer is there, or the reason why there is none. */
  loaded: Promise<void>
}

export function useSheet<T extends object>(ask: () => Promise<T>, again: WatchSource[] = []): Sheet<T> {
  const failure = ref('')
  let retry: ReturnType<typeof setTimeout> | undefined
  let gone = false
  const {
    state: sheet,
    isLoading,
    execute,
  } = useAsyncState<T | undefined, []>(ask, undefined, {
    immediate: false,
    resetOnExecute: false,
    throwError: true,
    onError: () => undefined, // told to whoever asked
  })

  async function load(): Promise<void> {
    await execute()
    await until(isLoading).toBe(false) // a later question's answer is the one that is shown
    failure.value = ''
  }

  async function loadOrSay(): Promise<void> {
    clearTimeout(retry)
    try {
      await load()
    } catch (caught) {
      failure.value = problemIn(caught, 'Check that it is running, then reload.').detail
      if (caught instanceof Unreachable && !gone) retry = setTimeout(() => void loadOrSay(), AGAIN_MS)
    }
  }

  onScopeDispose(() => {
    gone = true
    clearTimeout(retry)
  }, true)
  const loaded = loadOrSay()
  watch(again, loadOrSay)
  return { sheet, failure, load, loaded }
}
