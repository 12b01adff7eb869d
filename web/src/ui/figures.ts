/** What is typed into plain number fields. Measured values are sent as typed and read by the server. */

/** A number with decimal point or comma, or null where there is none. */
export function figure(text: string): number | null {
  const value = Number(text.trim().replace(',', '.'))
  return text.trim() === '' || !Number.isFinite(value) ? null : value
}

/** A whole number, or null where there is none. */
export function whole(text: string): number | null {
  const value = figure(text)
  return value !== null && Number.isInteger(value) ? value : null
}

/** Figures pasted from a spreadsheet: a column or a row. */
export function pasted(text: string): string[] {
  return text
    .split(/[\r\n\t;]+/)
    .map((cell) => cell.trim())
    .filter(Boolean)
}
