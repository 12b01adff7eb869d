/** Lists as they are typed into one field, of a part or of what is around it. */
import type { Schemas } from '@/api/client'
import { figure } from './figures'

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

/** "pressure sensor 12.7, injector 13.8" */
export function homes(typed: string): Schemas['HomeSpec'][] | null {
  return (
    lines(typed)?.map((word) => {
      const match = /^(.*?)\s+([\d.]+)\s*(?:mm)?$/.exec(word)
      return match ? { purpose: match[1] ?? word, bore_mm: figure(match[2] ?? '') } : { purpose: word }
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
