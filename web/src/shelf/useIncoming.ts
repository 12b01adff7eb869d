/** A dropped file on its way to the shelf: looked at first, then taken row by row. */
import { ref } from 'vue'
import { api, asBytes, problemIn, told, type Problem, type Schemas } from '@/api/client'
import { useSession } from '@/frame/session'

export function useIncoming(again: () => Promise<unknown>) {
  const { personId, shop } = useSession()
  const incoming = ref<{ name: string; bytes: ArrayBuffer; seen: Schemas['Incoming'] }>()
  const busy = ref(false)
  const problem = ref<Problem>()
  const said = ref('')

  async function look(file: File | undefined): Promise<void> {
    if (!file) return
    said.value = ''
    busy.value = true
    try {
      const bytes = await file.arrayBuffer()
      const query = { name: file.name }
      const seen = await told(api.POST('/api/shelf/preview', { params: { query }, ...asBytes(bytes) }))
      problem.value = undefined
      if (seen.new || seen.differs) incoming.value = { name: file.name, bytes, seen }
      else said.value = `Nothing new in ${file.name}: ${seen.same} parts lie here as it says.`
    } catch (error) {
      problem.value = problemIn(error, 'Nothing was taken.')
    } finally {
      busy.value = false
    }
  }

  async function take(rows: number[]): Promise<void> {
    const one = incoming.value
    if (!one || busy.value) return
    const bench_id = shop.value?.benches[0]?.id
    busy.value = true
    try {
      const query = { name: one.name, person_id: personId.value, bench_id, rows }
      const done = await told(api.POST('/api/shelf/import', { params: { query }, ...asBytes(one.bytes) }))
      problem.value = undefined
      incoming.value = undefined
      said.value = `${done.added?.length ?? 0} added, ${done.changed?.length ?? 0} changed.`
      await again()
    } catch (error) {
      problem.value = problemIn(error, 'Nothing was taken; the file is still here.')
    } finally {
      busy.value = false
    }
  }

  return { incoming, busy, problem, said, look, take, leave: () => (incoming.value = undefined) }
}
