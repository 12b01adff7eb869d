/** A picture or drawing that is traced: what was found in it, what was marked, and how it is sent. */
import { computed, ref } from 'vue'
import { api, asBytes, newId, problemIn, told, type Problem } from '@/api/client'
import { areaOf, middleOf, moved, smallestAt, spots, type Spot } from './outline'

export type Tool = 'opening' | 'scale' | 'corners' | 'holes' | 'hand' | 'move'
interface Source {
  name: string
  width: number
  height: number
  found: { points: Spot[]; area: number }[]
  /** Of a picture. */
  digest?: string
  dpi?: number | null
  /** Of a drawing: dots a millimetre, and where its upper left corner lies [mm]. */
  drawn?: { dots: number; left: number; top: number; unitTold: boolean }
}
interface Length {
  first: Spot
  second: Spot
  typed: string
}
const DRAWN_DOTS = 10
/** An opening so much smaller than the chosen one is a bolt hole. */
const HOLE = 0.3

export function useTracing(jobId: string, personId: () => string) {
  const source = ref<Source>()
  const tool = ref<Tool>('opening')
  const chosen = ref<Spot[]>([])
  const lengths = ref<Length[]>([])
  const first = ref<Spot>()
  const second = ref<Spot>()
  const corners = ref<Spot[]>([])
  const sides = ref({ width: '', height: '' })
  const holes = ref<Spot[]>([])
  const drawing = ref<Spot[]>([])
  /** How many dots a point of the screen covered where the scale was marked. */
  const within = ref(1)
  /** Whether the outline was tapped or moved: it is as good as the hand, not as the edge that was found. */
  const byHand = ref(false)
  const inches = ref(false)
  const note = ref('')
  const problem = ref<Problem>()
  const busy = ref(false)

  async function add(file: File): Promise<void> {
    busy.value = true
    problem.value = undefined
    try {
      const bytes = await file.arrayBuffer()
      source.value = /\.(dxf|svg)$/i.test(file.name)
        ? await fromDrawing(file.name, bytes)
        : await fromPicture(file.name, bytes)
      begin()
    } catch (caught) {
      problem.value = problemIn(caught, 'Choose the file again.')
    } finally {
      busy.value = false
    }
  }
  function begin(): void {
    chosen.value = []
    lengths.value = []
    corners.value = []
    holes.value = []
    drawing.value = []
    first.value = second.value = undefined
    within.value = 1
    tool.value = source.value?.found.length ? 'opening' : 'hand'
  }

  async function fromPicture(name: string, bytes: ArrayBuffer): Promise<Source> {
    const { digest = '' } = await told(
      api.POST('/api/pictures', { params: { query: { name } }, ...asBytes(bytes) }),
    )
    const body = { person_id: personId(), file_digest: digest, job_id: jobId, caption: `outlines: ${name}` }
    await told(api.PUT('/api/photos/{photo_id}', { params: { path: { photo_id: newId() } }, body }))
    const seen = await told(api.POST('/api/outlines/found', { params: { query: { digest } } }))
    note.value = seen.why
    const found = seen.openings.map((o) => ({ points: spots(o.points), area: o.area }))
    return { name, width: seen.width, height: seen.height, found, digest, dpi: seen.dpi ?? null }
  }
  async function fromDrawing(name: string, bytes: ArrayBuffer): Promise<Source> {
    const seen = await told(
      api.POST('/api/outlines/drawn', { params: { query: { name } }, ...asBytes(bytes) }),
    )
    const lines = seen.lines.map(spots)
    const all = lines.flat()
    const xs = all.map(([x]) => x)
    const ys = all.map(([, y]) => y)
    const left = Math.min(...xs) - 10
    const top = Math.max(...ys) + 10
    const found = lines.map((line) => {
      const points = line.map(([x, y]): Spot => [(x - left) * DRAWN_DOTS, (top - y) * DRAWN_DOTS])
      return { points, area: areaOf(points) }
    })
    note.value = seen.unit_told ? '' : 'The file names no unit.'
    return {
      name,
      width: (Math.max(...xs) + 10 - left) * DRAWN_DOTS,
      height: (top + 10 - Math.min(...ys)) * DRAWN_DOTS,
      found,
      drawn: { dots: DRAWN_DOTS, left, top, unitTold: seen.unit_told },
    }
  }

  function tap(at: Spot, dots: number): void {
    note.value = ''
    if (tool.value === 'scale' || tool.value === 'corners') within.value = Math.max(within.value, dots)
    if (tool.value === 'opening') pick(at)
    else if (tool.value === 'scale') {
      if (!first.value || second.value) [first.value, second.value] = [at, undefined]
      else second.value = at
    } else if (tool.value === 'corners')
      corners.value = corners.value.length < 4 ? [...corners.value, at] : [at]
    else if (tool.value === 'holes') hole(at)
    else if (tool.value === 'hand') tapRound(at)
  }
  function pick(at: Spot): void {
    const found = source.value && smallestAt(at, source.value.found)
    if (found) {
      chosen.value = found.points
      byHand.value = false
    } else note.value = 'No outline is found round that place. Mark its points by hand.'
  }
  function hole(at: Spot): void {
    const found = source.value && smallestAt(at, source.value.found)
    const small = found && found.area < HOLE * areaOf(chosen.value) ? middleOf(found.points) : at
    holes.value = holes.value.length < 2 ? [...holes.value, small] : [small]
  }
  function tapRound(at: Spot): void {
    const start = drawing.value[0]
    const near = (source.value?.width ?? 0) / 60
    if (start && drawing.value.length > 2 && Math.hypot(at[0] - start[0], at[1] - start[1]) < near)
      closeByHand()
    else drawing.value = [...drawing.value, at]
  }
  function closeByHand(): void {
    if (drawing.value.length < 3) return
    chosen.value = drawing.value
    byHand.value = true
    drawing.value = []
    tool.value = 'move'
  }
  function move(handle: number, by: Spot): void {
    chosen.value = moved(chosen.value, handle, by)
    byHand.value = true
  }

  function keepLength(typed: string): void {
    if (!first.value || !second.value || !typed.trim()) return
    lengths.value = [...lengths.value, { first: first.value, second: second.value, typed }]
    first.value = second.value = undefined
  }
  function clearLengths(): void {
    lengths.value = []
    within.value = 1
  }
  /** What the scanner says of its own fineness, as one known length. */
  function trustFile(): void {
    const { dpi, width = 0 } = source.value ?? {}
    if (dpi)
      lengths.value = [
        { first: [0, 0], second: [width, 0], typed: `${((width / dpi) * 25.4).toFixed(3)} mm` },
      ]
  }
  const scaled = computed(
    () =>
      !!source.value?.drawn ||
      lengths.value.length > 0 ||
      (corners.value.length === 4 && !!sides.value.width && !!sides.value.height),
  )

  /** The outline as it is sent: in dots of its picture, or in millimetres of its drawing. */
  function body(): Record<string, unknown> {
    const from = source.value
    if (from?.drawn) {
      const { dots, left, top } = from.drawn
      const size = inches.value ? 25.4 : 1
      const mm = ([x, y]: Spot): Spot => [(left + x / dots) * size, (top - y / dots) * size]
      return { points: chosen.value.map(mm), marks: holes.value.map(mm), source: 'file' }
    }
    const scale =
      corners.value.length === 4 ? { corners: corners.value, ...sides.value } : { lengths: lengths.value }
    const picture = { digest: from?.digest ?? '', tapped_within: within.value, ...scale }
    return { points: chosen.value, marks: holes.value, by_hand: byHand.value, picture }
  }
  /** The next opening of the same picture: scale and sheet stay. */
  function again(): void {
    chosen.value = []
    holes.value = []
    tool.value = 'opening'
  }
  return {
    source, tool, chosen, lengths, first, second, corners, sides, holes, drawing, inches, note, problem, busy, scaled,
    add, tap, move, keepLength, trustFile, clearLengths, closeByHand, body, again,
  } // prettier-ignore
}
