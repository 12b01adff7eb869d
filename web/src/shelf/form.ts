/** What is said of a part, as text fields hold it, and back. */
import type { Schemas } from '@/api/client'
import { figure, whole } from '@/ui/figures'
import { homes, lines, plugs } from '@/ui/lists'

export interface JointForm {
  opening: string
  /** "4, 66 × 66": bolts, and their spacing across and along in mm. */
  bolts: string
  outside: string
}

export interface PartForm {
  name: string
  maker: string
  number: string
  material: string
  price: string
  lead: string
  mass: string
  note: string
  boost: string
  heat: string
  advertisedBore: string
  advertisedOut: string
  advertisedLength: string
  advertisedVolume: string
  advertisedFlow: string
  inlet: JointForm
  outlet: JointForm
  swing: string
  flangeMetal: string
  height: string
  front: string
  weldable: boolean | null
  splits: boolean | null
  ports: string
  homes: string
  plugs: string
  fouls: string
  fuels: string
  /** "45 at 1.5; 30 at 1.5": angle and radius over bore. */
  bends: string
  /** "120 of 46; 190 of 42 × 38": length of a section, round or across by height, mm. */
  sections: string
  ribbed: boolean
  cast: boolean
  claims: string
}

const text = (value: number | string | null | undefined): string => (value == null ? '' : String(value))

export function jointForm(spec: Schemas['JointSpec'] | null | undefined): JointForm {
  const spacing = spec?.bolt_across_mm ? `, ${spec.bolt_across_mm} × ${text(spec.bolt_along_mm)}` : ''
  return {
    opening: text(spec?.opening_mm),
    bolts: spec?.bolt_count ? `${spec.bolt_count}${spacing}` : '',
    outside: text(spec?.outside_mm),
  }
}

export function joint(form: JointForm): Schemas['JointSpec'] | null {
  const [count, spacing] = form.bolts.split(/[,;]/)
  const [across, along] = (spacing ?? '').split(/[×x*]/).map((s) => figure(s))
  const spec = {
    opening_mm: figure(form.opening),
    bolt_count: whole(count ?? ''),
    bolt_across_mm: across ?? null,
    bolt_along_mm: along ?? across ?? null,
    outside_mm: figure(form.outside),
  }
  return Object.values(spec).some((v) => v !== null) ? spec : null
}

/** Claims are sentences: a semicolon stands between them. */
export const claimed = (typed: string): string[] =>
  typed
    .split(';')
    .map((w) => w.trim())
    .filter(Boolean)

/** "45 at 1.5; 30": a bend without a radius is a mitre. */
export const bends = (typed: string): Schemas['BendSpec'][] =>
  claimed(typed).flatMap((word) => {
    const [angle, radius] = word.split(/\s*(?:at|@)\s*/).map((w) => figure(w))
    return angle == null ? [] : { angle_deg: angle, radius_over_bore: radius ?? 0 }
  })

/** "120 of 46; 190 of 42 × 38" */
export const sections = (typed: string): Schemas['SectionSpec'][] =>
  claimed(typed).flatMap((word) => {
    const [length, size] = word.split(/\s*of\s*/)
    const [across, height] = (size ?? '').split(/[×x*]/).map((w) => figure(w))
    const length_mm = figure(length ?? '')
    return length_mm == null || across == null
      ? []
      : { length_mm, across_mm: across, height_mm: height ?? null }
  })

export function read(sheet: Schemas['PartSheet']): PartForm {
  const { features, advertised } = sheet
  const joined = (words: string[] | null | undefined) =>
    words == null ? '' : words.length ? words.join(', ') : '–'
  return {
    name: sheet.name,
    maker: text(sheet.maker),
    number: text(sheet.number),
    material: text(sheet.material),
    price: text(sheet.price),
    lead: text(sheet.lead_days),
    mass: text(sheet.mass_kg),
    note: sheet.note,
    boost: text(features.boost_kpa),
    heat: text(features.heat_limit_c),
    advertisedBore: text(advertised.bore_mm),
    advertisedOut: text(advertised.bore_out_mm),
    advertisedLength: text(advertised.length_mm),
    advertisedVolume: text(advertised.volume_l),
    advertisedFlow: text(advertised.flow_cfm),
    inlet: jointForm(features.inlet),
    outlet: jointForm(features.outlet),
    swing: text(features.swing_mm),
    flangeMetal: text(features.flange_metal_mm),
    height: text(features.height_mm),
    front: text(features.front_length_mm),
    weldable: features.weldable ?? null,
    splits: features.splits ?? null,
    ports: joined(features.ports),
    homes: joined(features.homes?.map((h) => `${h.purpose}${h.bore_mm == null ? '' : ` ${h.bore_mm}`}`)),
    plugs: (features.plugs ?? [])
      .map((p) => [p.purpose, p.connector, p.signal].filter(Boolean).join(' / '))
      .join('; '),
    fouls: joined(features.fouls),
    fuels: joined(features.fuels),
    bends: (features.bends ?? []).map((b) => `${b.angle_deg} at ${b.radius_over_bore}`).join('; '),
    sections: (features.sections ?? [])
      .map((s) => `${s.length_mm} of ${s.across_mm}${s.height_mm ? ` × ${s.height_mm}` : ''}`)
      .join('; '),
    ribbed: features.ribbed ?? false,
    cast: features.cast ?? false,
    claims: sheet.claims.map((c) => c.words).join('; '),
  }
}

/** The form as it is sent, over what was said before. */
export function written(f: PartForm, s: Schemas['PartSheet']): Schemas['PartEdit'] {
  return {
    version: s.version,
    name: f.name,
    maker: f.maker || null,
    number: f.number || null,
    material: f.material || null,
    mass_kg: figure(f.mass),
    price: figure(f.price),
    lead_days: whole(f.lead),
    note: f.note,
    advertised: {
      ...s.advertised,
      bore_mm: figure(f.advertisedBore),
      bore_out_mm: figure(f.advertisedOut),
      length_mm: figure(f.advertisedLength),
      volume_l: figure(f.advertisedVolume),
      flow_cfm: figure(f.advertisedFlow),
    },
    features: {
      ...s.features,
      inlet: joint(f.inlet),
      outlet: joint(f.outlet),
      swing_mm: figure(f.swing),
      height_mm: figure(f.height),
      front_length_mm: figure(f.front),
      boost_kpa: figure(f.boost),
      heat_limit_c: figure(f.heat),
      flange_metal_mm: figure(f.flangeMetal),
      weldable: f.weldable,
      splits: f.splits,
      ports: lines(f.ports),
      plugs: plugs(f.plugs),
      homes: homes(f.homes),
      fouls: lines(f.fouls),
      fuels: lines(f.fuels),
      bends: bends(f.bends),
      sections: sections(f.sections),
      ribbed: f.ribbed,
      cast: f.cast,
    },
    claims: claimed(f.claims).map((words) => s.claims.find((c) => c.words === words) ?? { words }),
  }
}
