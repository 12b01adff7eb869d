/** What the vehicle, the engine and the rules ask of a part, as text fields hold it, and back. */
import type { Schemas } from '@/api/client'
import { asTyped, sent } from '@/ui/figures'
import { homes, lines, plugs } from '@/ui/lists'

type Spec = Schemas['SurroundingsSpec-Output']
type RuleKind = Schemas['RuleKind']

export interface RuleForm {
  kind: RuleKind
  on: boolean
  limit: string
  words: string
}

/** Rules that can be asked about, and how each is called. */
export const RULES: { kind: RuleKind; label: string; bore: boolean }[] = [
  { kind: 'stock_casting', label: 'stock casting only', bore: false },
  { kind: 'throttle_bore', label: 'throttle bore limited', bore: true },
  { kind: 'restrictor_bore', label: 'restrictor bore limited', bore: true },
  { kind: 'spacer', label: 'no spacer or adapter', bore: false },
  { kind: 'welding', label: 'no welding', bore: false },
]
export const BRAKES = [
  { label: 'not asked yet', value: null },
  { label: 'vacuum', value: 'vacuum' },
  { label: 'otherwise', value: 'other' },
  { label: 'none', value: 'none' },
]
export const NOISE = [
  { label: 'not asked yet', value: null },
  { label: 'wanted', value: 'wanted' },
  { label: 'unwanted', value: 'unwanted' },
]

export function readSurroundings(around: Spec | undefined, typed: Record<string, string> | undefined) {
  const text = (v: number | null | undefined, place: string) => asTyped(typed, `surroundings.${place}`, v)
  return {
    bonnet: text(around?.bonnet_height_mm, 'bonnet_height_mm'),
    front: text(around?.front_length_mm, 'front_length_mm'),
    rear: text(around?.rear_mm, 'rear_mm'),
    side: text(around?.side_mm, 'side_mm'),
    heat: text(around?.heat_c, 'heat_c'),
    accessories: (around?.accessories ?? []).join(', '),
    ports: (around?.ports ?? []).join(', '),
    homes: (around?.homes ?? [])
      .map((h) => `${h.purpose}${h.bore_mm == null ? '' : ` ${h.bore_mm}`}`)
      .join(', '),
    plugs: (around?.plugs ?? [])
      .map((p) => [p.purpose, p.connector, p.signal].filter(Boolean).join(' / '))
      .join('; '),
    welding: around?.welding ?? false,
    headFlange: around?.head_flange ?? '',
    portPitch: text(around?.port_pitch_mm, 'port_pitch_mm'),
    bankAngle: text(around?.bank_angle_deg, 'bank_angle_deg'),
    brakes: around?.brakes ?? null,
    noise: around?.noise ?? null,
    rules: RULES.map(({ kind }): RuleForm => {
      const at = (around?.rules ?? []).findIndex((rule) => rule.kind === kind)
      const rule = around?.rules?.[at]
      return {
        kind,
        on: !!rule,
        limit: text(rule?.limit_mm, `rules.${at}.limit_mm`),
        words: rule?.words ?? '',
      }
    }),
  }
}

export type SurroundingsForm = ReturnType<typeof readSurroundings>

export function writtenSurroundings(f: SurroundingsForm): Schemas['SurroundingsSpec-Input'] {
  return {
    bonnet_height_mm: sent(f.bonnet),
    front_length_mm: sent(f.front),
    rear_mm: sent(f.rear),
    side_mm: sent(f.side),
    heat_c: sent(f.heat),
    accessories: lines(f.accessories) ?? [],
    ports: lines(f.ports) ?? [],
    homes: homes(f.homes) ?? [],
    plugs: plugs(f.plugs) ?? [],
    welding: f.welding,
    head_flange: f.headFlange || null,
    port_pitch_mm: sent(f.portPitch),
    bank_angle_deg: sent(f.bankAngle),
    brakes: f.brakes,
    noise: f.noise,
    rules: f.rules
      .filter((rule) => rule.on)
      .map(({ kind, limit, words }) => ({ kind, limit_mm: sent(limit), words })),
  }
}
