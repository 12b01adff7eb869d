/** Dates as they are said in the shop. Put together here: the browser's own formatter takes 50 ms to come up. */
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sept', 'Oct', 'Nov', 'Dec']

export function day(iso: string | null | undefined): string {
  if (!iso) return ''
  const at = new Date(iso)
  return `${at.getDate()} ${MONTHS[at.getMonth()]}`
}

export function dayAndTime(iso: string): string {
  const at = new Date(iso)
  const two = (figure: number) => String(figure).padStart(2, '0')
  return `${day(iso)}, ${two(at.getHours())}:${two(at.getMinutes())}`
}

/** Words with a capital in front. */
export const firstUp = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1)

/** How well a statement stands, in words. */
export const GRADES: Record<string, string> = {
  measured: 'measured',
  computed: 'computed from measured',
  estimated: 'estimated',
  rule: 'rule of thumb',
}
