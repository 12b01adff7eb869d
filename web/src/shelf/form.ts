/** What is said of a part, as text fields hold it, and back. */
import type { Schemas } from '@/api/client'
import { asTyped, sent } from '@/ui/figures'
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
  here: string
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
  boreForm: string
  setOf: string
  splits: boolean | null
  ports: string
  homes: string
  plugs: string
  fouls: string
  fuels: string
  runners: string
  headFlange: string
  portPitch: string
  bankAngle: string
  casting: string
  welded: boolean | null
  efficiency: string
  ratioLimit: string
  cooling: string
  drop: string
  dropAt: string
  /** "45 at 1.5; 30 at 1.5": angle and radius over bore. */
  bends: string
  /** "120 of 46; 190 of 42 × 38": length of a section, round or across by height, mm. */
  sections: string
  ribbed: boolean
  cast: boolean
  claims: string
  nitrous: string
  rear: string
  side: string
  /** "10 spacer; 3 gasket plate": thickness in mm, and what for. */
  plates: string
  had: string
  nextRun: string
  places: string
  offRoad: string
  inBox: string
  besides: string
  withTax: boolean | null
  /** "blade screws loosen / a customer / sticks": what, who says so, what it can do. */
  weaknesses: string
}

export const BORE_FORMS = [
  { value: '', label: 'not said' },
  { value: 'plain', label: 'plain' },
  { value: 'tapered', label: 'tapered' },
  { value: 'lobed', label: 'lobed' },
]
export const HAD = [
  { label: 'not said', value: '' },
  { label: 'in stock', value: 'stock' },
  { label: 'to order', value: 'order' },
  { label: 'next run', value: 'run' },
  { label: 'exchange', value: 'exchange' },
  { label: 'used', value: 'used' },
  { label: 'no longer made', value: 'gone' },
]

/** "10 spacer; 3": a plate's thickness first. */
export const plates = (typed: string): Schemas['PlateSpec-Input'][] =>
  claimed(typed).map((word) => {
    const [, thickness, words] = /^(\S+(?:\s*(?:mm|in))?)\s*(.*)$/.exec(word) ?? []
    return { thickness_mm: thickness ?? word, words: words ?? '' }
  })

const HAZARDS = ['sticks', 'swallowed', 'other']
/** "what / who says so / sticks or swallowed". */
export const weaknesses = (typed: string): Schemas['WeaknessSpec'][] =>
  claimed(typed).map((word) => {
    const [words, source, hazard] = word.split('/').map((w) => w.trim())
    const known = HAZARDS.find((h) => h === hazard?.toLowerCase()) as Schemas['HazardKind'] | undefined
    return { words: words ?? '', source: source ?? '', hazard: known ?? 'other' }
  })

const text = (value: number | string | null | undefined): string => (value == null ? '' : String(value))

type Typed = Record<string, string>

export function jointForm(
  spec: Schemas['JointSpec-Output'] | null | undefined,
  typed: Typed,
  place: string,
): JointForm {
  const of = (name: string, value: number | null | undefined) => asTyped(typed, `${place}.${name}`, value)
  const across = of('bolt_across_mm', spec?.bolt_across_mm)
  const spacing = across ? `, ${across} × ${of('bolt_along_mm', spec?.bolt_along_mm)}` : ''
  return {
    opening: of('opening_mm', spec?.opening_mm),
    bolts: spec?.bolt_count ? `${of('bolt_count', spec.bolt_count)}${spacing}` : '',
    outside: of('outside_mm', spec?.outside_mm),
  }
}

/** "4, 66 × 66". What is not of this form goes out whole, and is refused by its name. */
export function joint(form: JointForm): Schemas['JointSpec-Input'] | null {
  const match = /^([^,;]*)(?:[,;]([^×x*]*)(?:[×x*](.*))?)?$/.exec(form.bolts)
  const [count, across, along] = match ? match.slice(1) : [form.bolts]
  const spec = {
    opening_mm: sent(form.opening),
    bolt_count: sent(count ?? ''),
    bolt_across_mm: sent(across ?? ''),
    bolt_along_mm: sent(along ?? across ?? ''),
    outside_mm: sent(form.outside),
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
export const bends = (typed: string): Schemas['BendSpec-Input'][] =>
  claimed(typed).map((word) => {
    const [angle, radius] = word.split(/\s*(?:at|@)\s*/)
    return { angle_deg: angle ?? '', radius_over_bore: sent(radius ?? '') ?? 0 }
  })

/** "120 of 46; 190 of 42 × 38" */
export const sections = (typed: string): Schemas['SectionSpec-Input'][] =>
  claimed(typed).map((word) => {
    const [length, size] = word.split(/\s*of\s*/)
    const [across, height] = (size ?? '').split(/[×x*]/)
    return { length_mm: length ?? '', across_mm: (across ?? '').trim(), height_mm: sent(height ?? '') }
  })

export function read(sheet: Schemas['PartSheet']): PartForm {
  const { features, advertised, typed } = sheet
  const of = (place: string, value: number | null | undefined) => asTyped(typed, place, value)
  const joined = (words: string[] | null | undefined) =>
    words == null ? '' : words.length ? words.join(', ') : '–'
  return {
    name: sheet.name,
    maker: text(sheet.maker),
    number: text(sheet.number),
    material: text(sheet.material),
    price: of('price', sheet.price),
    lead: of('lead_days', sheet.lead_days),
    mass: of('mass_kg', sheet.mass_kg),
    here: String(sheet.stock.here),
    note: sheet.note,
    boost: of('features.boost_kpa', features.boost_kpa),
    heat: of('features.heat_limit_c', features.heat_limit_c),
    advertisedBore: of('advertised.bore_mm', advertised.bore_mm),
    advertisedOut: of('advertised.bore_out_mm', advertised.bore_out_mm),
    advertisedLength: of('advertised.length_mm', advertised.length_mm),
    advertisedVolume: of('advertised.volume_l', advertised.volume_l),
    advertisedFlow: of('advertised.flow_cfm', advertised.flow_cfm),
    inlet: jointForm(features.inlet, typed, 'features.inlet'),
    outlet: jointForm(features.outlet, typed, 'features.outlet'),
    swing: of('features.swing_mm', features.swing_mm),
    flangeMetal: of('features.flange_metal_mm', features.flange_metal_mm),
    height: of('features.height_mm', features.height_mm),
    front: of('features.front_length_mm', features.front_length_mm),
    weldable: features.weldable ?? null,
    boreForm: features.bore_form ?? '',
    setOf: of('features.set_of', features.set_of),
    splits: features.splits ?? null,
    ports: joined(features.ports),
    homes: joined(features.homes?.map((h) => `${h.purpose}${h.bore_mm == null ? '' : ` ${h.bore_mm}`}`)),
    plugs: (features.plugs ?? [])
      .map((p) => [p.purpose, p.connector, p.signal].filter(Boolean).join(' / '))
      .join('; '),
    fouls: joined(features.fouls),
    fuels: joined(features.fuels),
    runners: of('features.runners', features.runners),
    headFlange: text(features.head_flange),
    portPitch: of('features.port_pitch_mm', features.port_pitch_mm),
    bankAngle: of('features.bank_angle_deg', features.bank_angle_deg),
    casting: text(features.casting),
    welded: features.welded ?? null,
    efficiency: of('features.efficiency_percent', features.efficiency_percent),
    ratioLimit: of('features.ratio_limit', features.ratio_limit),
    cooling: of('features.cooling_percent', features.cooling_percent),
    drop: of('features.drop_kpa', features.drop_kpa),
    dropAt: of('features.drop_at_cfm', features.drop_at_cfm),
    bends: (features.bends ?? []).map((b) => `${b.angle_deg} at ${b.radius_over_bore}`).join('; '),
    sections: (features.sections ?? [])
      .map((s) => `${s.length_mm} of ${s.across_mm}${s.height_mm ? ` × ${s.height_mm}` : ''}`)
      .join('; '),
    ribbed: features.ribbed ?? false,
    cast: features.cast ?? false,
    claims: sheet.claims.map((c) => c.words).join('; '),
    nitrous: of('features.nitrous_kw', features.nitrous_kw),
    rear: of('features.rear_mm', features.rear_mm),
    side: of('features.side_mm', features.side_mm),
    plates: (features.plates ?? []).map((p) => `${p.thickness_mm} ${p.words}`.trim()).join('; '),
    had: features.had ?? '',
    nextRun: features.next_run_on ?? '',
    places: of('features.run_places', features.run_places),
    offRoad: of('features.off_road_days', features.off_road_days),
    inBox: (features.in_box ?? []).join(', '),
    besides: (features.besides ?? []).join(', '),
    withTax: features.price_with_tax ?? null,
    weaknesses: (features.weaknesses ?? [])
      .map((w) => [w.words, w.source, w.hazard === 'other' ? '' : w.hazard].filter(Boolean).join(' / '))
      .join('; '),
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
    mass_kg: sent(f.mass),
    price: sent(f.price),
    lead_days: sent(f.lead),
    on_hand: sent(f.here),
    note: f.note,
    advertised: {
      ...s.advertised,
      bore_mm: sent(f.advertisedBore),
      bore_out_mm: sent(f.advertisedOut),
      length_mm: sent(f.advertisedLength),
      volume_l: sent(f.advertisedVolume),
      flow_cfm: sent(f.advertisedFlow),
    },
    features: {
      ...s.features,
      inlet: joint(f.inlet),
      outlet: joint(f.outlet),
      swing_mm: sent(f.swing),
      height_mm: sent(f.height),
      front_length_mm: sent(f.front),
      boost_kpa: sent(f.boost),
      heat_limit_c: sent(f.heat),
      flange_metal_mm: sent(f.flangeMetal),
      weldable: f.weldable,
      set_of: sent(f.setOf),
      bore_form: (f.boreForm || null) as Schemas['BoreForm'] | null,
      splits: f.splits,
      ports: lines(f.ports),
      plugs: plugs(f.plugs),
      homes: homes(f.homes),
      fouls: lines(f.fouls),
      fuels: lines(f.fuels),
      runners: sent(f.runners),
      head_flange: f.headFlange || null,
      port_pitch_mm: sent(f.portPitch),
      bank_angle_deg: sent(f.bankAngle),
      casting: f.casting || null,
      welded: f.welded,
      efficiency_percent: sent(f.efficiency),
      ratio_limit: sent(f.ratioLimit),
      cooling_percent: sent(f.cooling),
      drop_kpa: sent(f.drop),
      drop_at_cfm: sent(f.dropAt),
      bends: bends(f.bends),
      sections: sections(f.sections),
      ribbed: f.ribbed,
      cast: f.cast,
      nitrous_kw: sent(f.nitrous),
      rear_mm: sent(f.rear),
      side_mm: sent(f.side),
      plates: plates(f.plates),
      had: (f.had || null) as Schemas['Had'] | null,
      next_run_on: f.had === 'run' ? sent(f.nextRun) : null,
      run_places: f.had === 'run' ? sent(f.places) : null,
      off_road_days: f.had === 'exchange' ? sent(f.offRoad) : null,
      in_box: lines(f.inBox) ?? [],
      besides: lines(f.besides) ?? [],
      price_with_tax: f.withTax,
      weaknesses: weaknesses(f.weaknesses),
    },
    claims: claimed(f.claims).map((words) => s.claims.find((c) => c.words === words) ?? { words }),
  }
}
