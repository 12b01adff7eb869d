/** Files that are dropped on the dyno screen, or recorded on it, on their way to becoming pulls. */
import { computed, ref, type Ref } from 'vue'
import { api, newId, problemIn, told, type Schemas } from '@/api/client'
import { useSession } from '@/frame/session'
import type { PullView } from './pullFacts'
import { dropped, guessBuild, usePending, watched, type Source } from './mapping'

export function useFiles(
  jobId: string,
  sheet: Ref<Schemas['DynoSheet'] | undefined>,
  again: () => Promise<unknown>,
) {
  const { shop, personId, loadShop } = useSession()
  const { pending, look, lookAt, lookAgain, keep, spread, answer, drop } = usePending(jobId)
  const first = computed(() => pending.value[0])
  const last = () => sheet.value?.pulls.findLast((p) => !p.struck)
  const error = ref('')

  /** The dyno used last; a shop that has named none yet chooses between one at the engine and one on rollers. */
  async function ensureDyno(): Promise<string> {
    const known = sheet.value?.pulls.at(-1)?.dyno_id ?? shop.value?.dynos[0]?.id
    if (known) return known
    const [atEngine, onRollers] = [newId(), newId()]
    for (const [dyno_id, name, kind] of [
      [atEngine, 'Engine dyno', 'engine'],
      [onRollers, 'Roller dyno', 'roller'],
    ] as const)
      await told(api.PUT('/api/dynos/{dyno_id}', { params: { path: { dyno_id } }, body: { name, kind } }))
    await loadShop()
    return atEngine
  }

  async function take(sources: Source[]): Promise<void> {
    const dynoId = await ensureDyno()
    for (const source of sources) {
      const taken = pending.value.map((p) => p.facts.build_id)
      await look(source, guessBuild(source.name, sheet.value?.designs ?? [], taken), dynoId, last())
    }
  }

  const takeFiles = (files: FileList | null | undefined) => take([...(files ?? [])].map(dropped))
  const takeWatched = (files: Schemas['WatchedFile'][]) => take(files.map(watched))

  /** What was recorded, as the file that it is now. */
  async function takeRecording(recording: Schemas['RecordingView']): Promise<void> {
    error.value = ''
    try {
      const preview = await told(
        api.POST('/api/recordings/{recording_id}/preview', {
          params: { path: { recording_id: recording.id } },
        }),
      )
      lookAt(preview, recording)
    } catch (caught) {
      error.value = problemIn(caught, 'What was recorded is safe; try again.').detail
    }
  }

  /** A kept pull's file, to map its columns anew. */
  async function takePull(pull: PullView): Promise<void> {
    error.value = ''
    try {
      lookAgain(
        await told(api.POST('/api/pulls/{pull_id}/preview', { params: { path: { pull_id: pull.id } } })),
        pull,
      )
    } catch (caught) {
      error.value = problemIn(caught, 'The pull stands as it was; try again.').detail
    }
  }

  async function keepFirst(): Promise<void> {
    if (first.value && (await keep(first.value, personId.value))) await again()
  }

  function choose(patch: Record<string, unknown>): void {
    if (!first.value) return
    answer(first.value, patch)
    if (patch['mapping']) spread(first.value)
    void keepFirst()
  }

  return {
    pending,
    first,
    takeFiles,
    takeWatched,
    takeRecording,
    takePull,
    keepFirst,
    choose,
    drop,
    spread,
    error,
  }
}
