/** A pasted block of figures: which of its rows or columns are runners, and which are their repeats. */

export type Axis = 'rows' | 'columns'

export interface Block {
  cells: string[][]
  /** What the block itself says are runners, by their numbers before its rows or above its columns. */
  numbered: Axis | undefined
}

/** A number, alone or with a unit behind it: `1st` is a heading. */
const isFigure = (cell: string): boolean =>
  /^[+-]?[.,]?\d[\d.,]*(\s*(cfm|m[3³]\/h|l\/s|l\/min))?$/i.test(cell)
const SEPARATORS = [/\t/, /;/, /,\s+/]

/** The figures of a pasted text, its headings and runner numbers taken off. */
export function blockOf(text: string): Block {
  const lines = text.split(/\r?\n/).filter((line) => line.trim())
  const separator = SEPARATORS.find((one) => one.test(text))
  let rows = lines.map((line) => (separator ? line.split(separator) : [line]).map((cell) => cell.trim()))
  const width = Math.max(0, ...rows.map((row) => row.length))
  rows = rows.map((row) => [...row, ...Array<string>(width - row.length).fill('')])
  let numbered: Axis | undefined
  const [top] = rows
  if (rows.length > 1 && top && (counted(top) || !top.some(isFigure))) {
    if (counted(top)) numbered = 'columns'
    rows = rows.slice(1)
  }
  const first = rows.map((row) => row[0] ?? '')
  if (width > 1 && (counted(first) || first.every((cell) => !isFigure(cell)))) {
    if (counted(first)) numbered = 'rows'
    rows = rows.map((row) => row.slice(1))
  }
  return { cells: rows, numbered }
}

/** Whether cells are 1, 2, 3 … alone, or with words: runner 1, runner 2. */
function counted(cells: string[]): boolean {
  const said = !/\d/.test(cells[0] ?? '') && cells.length > 2 ? cells.slice(1) : cells
  return said.length > 1 && said.every((cell, i) => new RegExp(`^[^\\d]*0?${i + 1}\\.?$`).test(cell))
}

/** The figures of each runner, one axis being runners. Empty cells are no figures. */
export function byRunner({ cells }: Block, axis: Axis): string[][] {
  const across = axis === 'rows' ? cells : (cells[0] ?? []).map((_, at) => cells.map((row) => row[at] ?? ''))
  return across.map((figures) => figures.filter(Boolean))
}

/** Which axis is runners: what is numbered, what has as many as there are runners, what fits; none where neither does.
 * `sure` where the other can't be. */
export function readAs(
  block: Block,
  runners: number,
  room: number,
): { axis: Axis; sure: boolean } | undefined {
  const count: Record<Axis, number> = { rows: block.cells.length, columns: block.cells[0]?.length ?? 0 }
  const fitting = (['rows', 'columns'] as const).filter((axis) => count[axis] <= room)
  const [only] = fitting
  if (!only) return undefined
  const full = fitting.filter((axis) => count[axis] === runners)
  const numbered = fitting.find((axis) => axis === block.numbered)
  const axis = numbered ?? full[0] ?? only
  return { axis, sure: fitting.length === 1 || !!numbered || (full.length === 1 && full[0] === axis) }
}

/** A single row or column that holds several rounds of all runners, as a block. */
export function rounds(figures: string[], runners: number): Block | undefined {
  const times = figures.length / runners
  if (runners < 2 || times < 2 || !Number.isInteger(times)) return undefined
  const cells = Array.from({ length: times }, (_, i) => figures.slice(i * runners, (i + 1) * runners))
  return { cells, numbered: undefined }
}
