/** Zones and rounds as lines to type into: what can't be read is sent as it stands, and the server says so. */
import type { Schemas } from '@/api/client'

type Zone = Schemas['Zone-Output']
type Round = Schemas['Round-Output']

export const zoneLines = (zones: readonly Zone[]): string =>
  zones.map((z) => `${z.kind} ${z.from_mm}-${z.to_mm}${z.runner ? ` runner ${z.runner}` : ''}`).join(', ')

/** "land 0-8, boss 120-140 runner 3" */
export const zonesOf = (line: string) =>
  line
    .split(',')
    .map((one) => one.trim())
    .filter(Boolean)
    .map((one) => {
      const found = /^(\S+)\s+([\d.]+)\s*[-–]\s*([\d.]+)(?:\s*mm)?(?:\s+runner\s+(\d+))?$/i.exec(one)
      if (!found) return { kind: one, from_mm: 0, to_mm: 0, runner: null }
      const [, kind = '', from_mm, to_mm, runner] = found
      return { kind: kind.toLowerCase(), from_mm, to_mm, runner: runner ? Number(runner) : null }
    })

/** "upper half to 120, lower half to 310" */
export const pieceLines = (pieces: readonly { role: string; to_mm: number }[]): string =>
  pieces.map((p) => `${p.role} to ${p.to_mm}`).join(', ')

export const piecesOf = (line: string) =>
  line
    .split(',')
    .map((one) => one.trim())
    .filter(Boolean)
    .map((one) => {
      const found = /^(.*\S)\s+to\s+([\d.]+)(?:\s*mm)?$/i.exec(one)
      return found ? { role: found[1], to_mm: found[2] } : { role: one, to_mm: 0 }
    })

export const roundLines = (rounds: readonly Round[]): string =>
  rounds
    .map(
      (r) => `${r.name}${(r.times ?? 1) > 1 ? ` × ${r.times}` : ''}${r.minutes ? ` ${r.minutes} min` : ''}`,
    )
    .join(', ')

/** "carbide 7.5 min, 80 grit × 3, P120 × 2": a number before "grit", or after a P, is its grit. */
export const recipeRounds = (line: string) =>
  line
    .split(',')
    .map((one) => one.trim())
    .filter(Boolean)
    .map((one) => {
      const minutes = /([\d.]+)\s*min\b/i.exec(one)?.[1] ?? null
      const times = Number(/[×x*]\s*(\d+)/i.exec(one)?.[1] ?? 1)
      const name = one
        .replace(/[\d.]+\s*min\b/i, '')
        .replace(/[×x*]\s*\d+/i, '')
        .trim()
      const grit = /(\d+)\s*grit/i.exec(name)?.[1] ?? /\bP\s?(\d+)/i.exec(name)?.[1]
      const system = /cami/i.test(name) ? 'CAMI' : 'P'
      return { name, times, minutes, grit: grit ? Number(grit) : null, system }
    })
