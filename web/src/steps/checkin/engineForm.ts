/** An engine as text fields hold it, and back: the cam by its card or by its events, compression stated or by volumes. */
import type { Schemas } from '@/api/client'
import { asTyped, sent } from '@/ui/figures'

export type EngineForm = ReturnType<typeof readEngine>

export function readEngine(sheet: Schemas['EngineSheet'] | undefined) {
  const e = sheet?.engine
  const card = e?.card
  const text = (v: number | null | undefined, place: string) => asTyped(sheet?.typed, place, v)
  const of = (v: number | null | undefined, place: string) => text(v, `card.${place}`)
  const angle = (v: number | null | undefined) => v?.toString() ?? ''
  const byVolumes = card?.chamber_cm3 != null && card.gasket_mm != null
  return {
    name: e?.name ?? '',
    layout: e?.layout ?? 'inline',
    banks: (e?.bank_count ?? 1).toString(),
    bore: text(e?.bore_mm, 'bore_mm'),
    stroke: text(e?.stroke_mm, 'stroke_mm'),
    limit: text(e?.limit_rpm, 'limit_rpm'),
    boost: e?.boosted ? text(e.boost_kpa, 'boost_kpa') : '',
    boosted: e?.boosted ?? false,
    compression: byVolumes ? '' : text(e?.compression_ratio, 'compression_ratio'),
    chamber: of(card?.chamber_cm3, 'chamber_cm3'),
    crown: of(card?.crown_cm3, 'crown_cm3'),
    deck: of(card?.deck_mm, 'deck_mm'),
    gasket: of(card?.gasket_mm, 'gasket_mm'),
    gasketBore: of(card?.gasket_bore_mm, 'gasket_bore_mm'),
    valves: text(e?.inlet_valve_count, 'inlet_valve_count'),
    valve: text(e?.inlet_valve_mm, 'inlet_valve_mm'),
    exhaustValve: of(card?.exhaust_valve_mm, 'exhaust_valve_mm'),
    portVolume: of(card?.port_volume_cm3, 'port_volume_cm3'),
    headers: card?.headers ?? '',
    fuel: e?.fuel ?? 'petrol',
    ethanol: of(card?.ethanol_percent, 'ethanol_percent'),
    octane: of(card?.octane, 'octane'),
    order: (e?.firing_order ?? []).join('-'),
    camBy: sheet?.typed['inlet_opens_deg'] ? 'events' : 'card',
    opens: text(e?.inlet_opens_deg, 'inlet_opens_deg'),
    closes: text(e?.inlet_closes_deg, 'inlet_closes_deg'),
    exhaustOpens: text(e?.exhaust_opens_deg, 'exhaust_opens_deg'),
    exhaustCloses: text(e?.exhaust_closes_deg, 'exhaust_closes_deg'),
    duration: angle(sheet?.cam?.inlet_duration_deg),
    exhaustDuration: angle(sheet?.cam?.exhaust_duration_deg),
    separation: angle(sheet?.cam?.separation_deg),
    centreline: angle(sheet?.cam?.centreline_deg),
    lift: text(e?.cam_lift_mm, 'cam_lift_mm'),
    lobe: of(card?.lobe_lift_mm, 'lobe_lift_mm'),
    exhaustLobe: of(card?.exhaust_lobe_lift_mm, 'exhaust_lobe_lift_mm'),
    rocker: of(card?.rocker_ratio, 'rocker_ratio'),
    injector: text(e?.injector_cc_min, 'injector_cc_min'),
    rated: text(e?.injector_rated_kpa, 'injector_rated_kpa'),
    rail: text(e?.rail_kpa, 'rail_kpa'),
  }
}

/** "seat" is a lift of nothing. */
const liftOf = (typed: string): string | null => (/^\s*seat\s*$/i.test(typed) ? '0' : sent(typed))

/** The form as it is sent. What decides is sent alone: the card or the events, the volumes or the ratio. */
export function engineBody(f: EngineForm): Schemas['NewEngine-Input'] {
  const byCard = f.camBy === 'card'
  const event = (typed: string) => (byCard ? null : sent(typed))
  const byVolumes = !!(f.chamber.trim() && f.gasket.trim())
  return {
    name: f.name || 'engine',
    layout: f.layout,
    bank_count: sent(f.banks) ?? 1,
    bore_mm: sent(f.bore),
    stroke_mm: sent(f.stroke),
    limit_rpm: sent(f.limit),
    boosted: f.boosted,
    boost_kpa: f.boosted ? sent(f.boost) : null,
    compression_ratio: byVolumes ? null : sent(f.compression),
    inlet_valve_count: sent(f.valves),
    inlet_valve_mm: sent(f.valve),
    fuel: f.fuel,
    firing_order: f.order.split(/[\s,;-]+/).filter(Boolean),
    inlet_opens_deg: event(f.opens),
    inlet_closes_deg: event(f.closes),
    exhaust_opens_deg: event(f.exhaustOpens),
    exhaust_closes_deg: event(f.exhaustCloses),
    cam_lift_mm: liftOf(f.lift),
    injector_cc_min: sent(f.injector),
    injector_rated_kpa: sent(f.rated),
    rail_kpa: sent(f.rail),
    cam:
      byCard && f.duration.trim()
        ? {
            inlet_duration_deg: f.duration,
            exhaust_duration_deg: sent(f.exhaustDuration),
            separation_deg: sent(f.separation),
            centreline_deg: sent(f.centreline),
          }
        : null,
    card: {
      chamber_cm3: sent(f.chamber),
      crown_cm3: sent(f.crown),
      deck_mm: sent(f.deck),
      gasket_mm: sent(f.gasket),
      gasket_bore_mm: sent(f.gasketBore),
      lobe_lift_mm: sent(f.lobe),
      exhaust_lobe_lift_mm: sent(f.exhaustLobe),
      rocker_ratio: sent(f.rocker),
      exhaust_valve_mm: sent(f.exhaustValve),
      port_volume_cm3: sent(f.portVolume),
      headers: f.headers,
      ethanol_percent: sent(f.ethanol),
      octane: sent(f.octane),
    },
  }
}
