/** Lists as they are typed into one field, of a part or of what is around it. */
import type { Schemas } from '@/api/client'

/** Words between commas or semicolons; nothing typed is nothing said, a dash is "none". */
export function lines(typed: string): string[] | null {
  if (typed.trim() === '') return null
  if (/^[-–—]$/.test(typed.trim())) return []
  const separator = typed.includes(';') ? ';' : ','
  return typed
    .split(separator)
    .map((w) => w.trim())
    .filter(Boolean)
}

/** "pressure sensor 12.7, injector 0.543 in": what ends with a figure has a bore. */
export function homes(typed: string): Schemas['HomeSpec-Input'][] | null {
  return (
    lines(typed)?.map((word) => {
      const match = /^(.*?)\s+(\d[\d.,/ ]*\s*(?:mm|cm|in|")?)$/.exec(word)
      return match ? { purpose: match[1] ?? word, bore_mm: match[2] ?? '' } : { purpose: word }
    }) ?? null
  )
}

/** "throttle position / six-way / two tracks, opposed; air meter / four-way" */
export function plugs(typed: string): Schemas['PlugSpec'][] | null {
  if (typed.trim() === '') return null
  return typed.split(';').map((word) => {
    const [purpose, connector, signal] = word.split('/').map((w) => w.trim())
    return { purpose: purpose ?? '', connector: connector || null, signal: signal || null }
  })
}
