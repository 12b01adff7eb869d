/** Several figures at once: pasted from a spreadsheet, or read from a file. */
import { ref, type Ref } from 'vue'
import { api, asBytes, problemIn, problemOf, told, type Problem, type Schemas } from '@/api/client'
import { pasted } from '@/ui/figures'
import type { useCapture } from './capture'

type Sheet = Omit<Schemas['BenchSheet'], 'band'>
/** A pasted table with its headings, as from a spreadsheet of old. */
const HEADED = /^[^\n]*\b(runner|cylinder|cyl|port)\b/i

export function useTable(
  jobId: string,
  sheet: Readonly<Ref<Sheet | undefined>>,
  capture: ReturnType<typeof useCapture>,
  note: Ref<Problem | undefined>,
) {
  const { side, active } = capture
  const surplus = ref<string[]>([])
  const room = () => (sheet.value?.rungs.length ?? 0) - active.value + 1

  function paste(event: ClipboardEvent): void {
    const text = event.clipboardData?.getData('text') ?? ''
    const figures = pasted(text)
    if (figures.length < 2) return
    event.preventDefault()
    if (HEADED.test(text)) return void readTable('The pasted table', new TextEncoder().encode(text).buffer)
    void keepSeveral(figures)
  }

  async function keepSeveral(figures: string[]): Promise<void> {
    if (figures.length > room()) {
      surplus.value = figures
      const from = active.value === 1 ? `${room()} runners` : `${room()} runners from ${active.value} on`
      note.value = {
        ...problemOf(
          `${figures.length} figures were pasted for ${from}: ${figures.join(', ')}. Nothing was kept yet.`,
          'too_many',
        ),
        offers: [{ label: `Keep the first ${room()}`, patch: {} }],
      }
      return
    }
    const from = active.value
    for (const [i, text] of figures.entries()) await capture.keep(from + i, text)
    active.value = capture.next(from + figures.length - 1)
  }

  function keepFirst(): void {
    note.value = undefined
    void keepSeveral(surplus.value.slice(0, room()))
  }

  async function read(event: Event): Promise<void> {
    const field = event.target as HTMLInputElement
    const file = field.files?.[0]
    if (file) await readTable(file.name, await file.arrayBuffer())
    field.value = ''
  }

  async function readTable(name: string, content: ArrayBuffer): Promise<void> {
    if (!sheet.value) return
    const query = { name, default_unit: sheet.value.unit_code }
    try {
      const found = await told(
        api.POST('/api/jobs/{job_id}/flow-table', {
          params: { path: { job_id: jobId }, query },
          ...asBytes(content),
        }),
      )
      const rows = found.rows.filter((row) => row.side === side.value)
      for (const row of rows) await capture.keep(row.cylinder, row.typed, undefined, row.taken_at)
      const others = found.rows.length - rows.length
      if (others)
        note.value = problemOf(
          `${others} figures of the other side were left: press A and read the table again.`,
        )
    } catch (error) {
      note.value = problemIn(error, 'Choose the table again.')
    }
  }
  return { paste, keepFirst, read }
}
