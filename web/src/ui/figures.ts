/**
 * What is typed into number fields. It is sent as typed: the server reads it, with its unit, and refuses what it can't.
 */

/** A field as it is sent; an empty one says nothing. */
export const sent = (text: string): string | null => text.trim() || null

/** A field as it is shown: as it was typed, else the number that is kept. */
export const asTyped = (
  typed: Record<string, string> | undefined,
  place: string,
  value: number | null | undefined,
): string => typed?.[place] ?? value?.toString() ?? ''

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
