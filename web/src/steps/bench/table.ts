/** Several figures at once: pasted from a spreadsheet, or read from a file. */
import { ref, type Ref } from 'vue'
import { api, asBytes, problemIn, problemOf, told, type Problem, type Schemas } from '@/api/client'
import { pasted } from '@/ui/figures'
import { blockOf, readAs, rounds, type Axis, type Block } from './block'
import type { useCapture } from './capture'

type Sheet = Omit<Schemas['BenchSheet'], 'band'>
/** A pasted table whose headings say the side, as our own files do. */
const SIDED = /^[^\n]*\b(before|after|flow)\b/i

export function useTable(
  jobId: string,
  sheet: Readonly<Ref<Sheet | undefined>>,
  capture: ReturnType<typeof useCapture>,
  note: Ref<Problem | undefined>,
  refresh: () => Promise<void>,
) {
  const { side, active } = capture
  const surplus = ref<string[]>([])
  /** A block that is looked at before it is kept. */
  const block = ref<{ block: Block; axis: Axis; sure: boolean }>()
  const runners = () => sheet.value?.rungs.length ?? 0
  /** So many at once begin at the runner that is chosen; as many as there are runners begin at the first. */
  const start = (count: number) => (count === runners() ? 1 : active.value)
  const room = () => runners() - active.value + 1

  function paste(event: ClipboardEvent): void {
    const text = event.clipboardData?.getData('text') ?? ''
    const figures = pasted(text)
    if (figures.length < 2) return
    event.preventDefault()
    if (SIDED.test(text)) return void readTable('The pasted table', new TextEncoder().encode(text).buffer)
    const found = blockOf(text)
    const line = found.cells.length === 1 || found.cells.every((row) => row.length === 1)
    const several = line ? rounds(found.cells.flat(), runners()) : undefined
    if (line && !several) void keepSeveral(found.cells.flat().filter(Boolean))
    else preview(several ?? found)
  }

  function preview(found: Block): void {
    const full = [found.cells.length, found.cells[0]?.length].includes(runners())
    const as = readAs(found, runners(), full ? runners() : room())
    if (as) block.value = { block: found, ...as }
    else
      note.value = problemOf(
        `A block of ${found.cells.length} rows and ${found.cells[0]?.length} columns was pasted for ` +
          `${room()} runners from ${active.value} on. Nothing was kept. Start at runner 1, or paste less.`,
        'too_many',
      )
  }

  function turn(): void {
    if (!block.value) return
    block.value = { ...block.value, axis: block.value.axis === 'rows' ? 'columns' : 'rows', sure: true }
  }

  /** Round by round, as they were read: repeats are refits, and ask nothing. */
  async function keepBlock(figures: string[][]): Promise<void> {
    const from = start(figures.length)
    if (from + figures.length - 1 > runners())
      return void (note.value = problemOf(
        `${figures.length} runners were pasted, ${room()} are left from ${from} on. Nothing was kept yet.`,
      ))
    block.value = undefined
    const times = Math.max(0, ...figures.map((row) => row.length))
    for (let time = 0; time < times; time++)
      for (const [i, row] of figures.entries()) await keepRefit(from + i, row[time])
    await goOn()
  }

  async function keepRefit(cylinder: number, text: string | undefined): Promise<void> {
    if (text) await capture.keep(cylinder, text, { refit: true })
  }

  async function keepSeveral(figures: string[]): Promise<void> {
    const from = start(figures.length)
    if (from + figures.length - 1 > runners()) {
      surplus.value = figures
      const place = from === 1 ? `${room()} runners` : `${room()} runners from ${from} on`
      note.value = {
        ...problemOf(
          `${figures.length} figures were pasted for ${place}: ${figures.join(', ')}. Nothing was kept yet.`,
          'too_many',
        ),
        offers: [{ label: `Keep the first ${room()}`, patch: {} }],
      }
      return
    }
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
      for (const row of rows) await capture.keep(row.cylinder, row.typed, { takenAt: row.taken_at })
      const others = found.rows.length - rows.length
      if (others)
        note.value = problemOf(
          `${others} figures of the other side were left: press A and read the table again.`,
        )
      await goOn()
    } catch (error) {
      note.value = problemIn(error, 'Choose the table again.')
    }
  }

  /** The entry goes to the runner that is due. */
  async function goOn(): Promise<void> {
    await refresh()
    active.value = capture.next(runners())
  }
  return { paste, keepFirst, read, block, start, turn, keepBlock }
}
