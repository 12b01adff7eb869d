/** What is asked at check-in, one question after another, and what folds away until it matters. */
import { day } from '@/ui/words'
import type { EngineForm } from './engineForm'
import type { JobForm } from './jobForm'

export interface Field {
  name: string
  label: string
  place: string
  placeholder?: string
  choices?: { label: string; value: unknown }[]
  check?: boolean
  date?: boolean
}

export interface Forms {
  engine: EngineForm
  job: JobForm
}

export interface Ask {
  name: string
  /** In the list of what was answered. */
  line: string
  /** As it is asked. */
  ask: string
  of: 'engine' | 'job'
  fields: (forms: Forms) => Field[]
  /** What was answered, in words; nothing where it wasn't. */
  answer: (forms: Forms) => string
  /** Figures that follow, by their names. */
  follows: string[]
  /** Nothing can be computed without it: it is asked when the screen opens. */
  decides?: true
  /** Folded until it matters: its key, and what it changes. Where it matters at once it decides. */
  matters?: (forms: Forms) => boolean
  key?: string
  changes?: string
}

const options = (...words: string[]) => words.map((w) => ({ label: w, value: w }))
const engineField = (name: keyof EngineForm, label: string, place: string, placeholder?: string): Field => ({
  name,
  label,
  place: `engine.${place}`,
  placeholder,
})
const jobField = (name: keyof JobForm, label: string, place: string, placeholder?: string): Field => ({
  name,
  label,
  place,
  placeholder,
})
const joined = (words: string[], by = ', '): string => words.filter((w) => w.trim()).join(by)

const GOAL: Ask = {
  name: 'goal',
  line: 'Goal',
  ask: 'What is wanted, by when, for how much?',
  of: 'job',
  fields: () => [
    jobField('customer', 'Customer', 'customer'),
    { ...jobField('due', 'Due', 'due_on'), date: true },
    jobField('budget', 'Budget', 'budget', '900 EUR'),
    jobField('power', 'Target engine power', 'power_wanted', '230 hp'),
  ],
  answer: ({ job }) =>
    joined([job.customer, job.due && `due ${day(job.due)}`, job.budget && `budget ${job.budget}`, job.power]),
  follows: [],
}

const ASKED: Ask[] = [
  {
    name: 'engine',
    decides: true,
    line: 'Engine',
    ask: 'What engine is it?',
    of: 'engine',
    fields: () => [
      engineField('name', 'Name', 'name'),
      { ...engineField('layout', 'Layout', 'layout'), choices: options('single', 'inline', 'vee', 'flat') },
      engineField('banks', 'Banks', 'bank_count'),
      engineField('order', 'Firing order', 'firing_order', '1-2-4-5-3'),
    ],
    answer: ({ engine: e }) => (e.name ? joined([`${e.name}, ${e.layout}`, e.order]) : ''),
    follows: [],
  },
  {
    name: 'size',
    decides: true,
    line: 'Bore × stroke',
    ask: 'Bore and stroke?',
    of: 'engine',
    fields: () => [
      engineField('bore', 'Bore, mm', 'bore_mm', '83 or 3.27 in'),
      engineField('stroke', 'Stroke, mm', 'stroke_mm'),
    ],
    answer: ({ engine: e }) => (e.bore && e.stroke ? `${e.bore} × ${e.stroke}` : ''),
    follows: ['Displacement', 'Stroke/bore ratio'],
  },
  {
    name: 'limit',
    decides: true,
    line: 'Rev limit',
    ask: 'Where is the rev limit?',
    of: 'engine',
    fields: () => [engineField('limit', 'Rev limit, rpm', 'limit_rpm')],
    answer: ({ engine: e }) => (e.limit ? `${e.limit} rpm` : ''),
    follows: ['Mean piston speed', 'Intake Mach index'],
  },
  {
    name: 'band',
    decides: true,
    line: 'Use and band',
    ask: 'What is it used for, and which rpm band counts?',
    of: 'job',
    fields: () => [
      jobField('use', 'Use', 'use', 'road, hill climb, work boat'),
      jobField('low', 'rpm band from', 'band_low_rpm'),
      jobField('high', 'rpm band to', 'band_high_rpm'),
    ],
    answer: ({ job }) => (job.low && job.high ? joined([job.use, `${job.low} to ${job.high} rpm`]) : ''),
    follows: ['Air demand'],
  },
  GOAL,
  {
    name: 'fits',
    line: 'Has to fit',
    ask: 'What does the part have to fit, and what do the rules allow?',
    of: 'job',
    fields: () => [],
    answer: ({ job: { around } }) =>
      joined([
        around.headFlange && `flange ${around.headFlange}`,
        around.bonnet && `bonnet ${around.bonnet} mm`,
        around.brakes ? `brakes: ${around.brakes}` : '',
        ...around.rules.filter((r) => r.on).map((r) => `rule: ${r.kind.replaceAll('_', ' ')}`),
      ]),
    follows: [],
  },
]

const CAM_WAYS = [
  { label: 'by its durations', value: 'card' },
  { label: 'by its events', value: 'events' },
]

const FOLDED: Ask[] = [
  {
    name: 'cam',
    line: 'Cam',
    ask: 'What does the cam card say?',
    of: 'engine',
    key: 'k',
    changes: 'runner losses and tuning',
    fields: ({ engine: e }) => [
      { ...engineField('camBy', 'The card tells it', 'cam'), choices: CAM_WAYS },
      ...(e.camBy === 'card'
        ? [
            engineField('duration', 'Intake duration, °', 'cam.inlet_duration_deg'),
            engineField('exhaustDuration', 'Exhaust duration, °', 'cam.exhaust_duration_deg'),
            engineField('separation', 'Lobe separation, °', 'cam.separation_deg'),
            engineField('centreline', 'Intake centreline, °', 'cam.centreline_deg'),
          ]
        : [
            engineField('opens', 'In opens, °BTDC', 'inlet_opens_deg'),
            engineField('closes', 'In closes, °ABDC', 'inlet_closes_deg'),
            engineField('exhaustOpens', 'Ex opens, °BBDC', 'exhaust_opens_deg'),
            engineField('exhaustCloses', 'Ex closes, °ATDC', 'exhaust_closes_deg'),
          ]),
      engineField('lift', 'Timed at lift, mm', 'cam_lift_mm', '1, 0.050 in or seat'),
      engineField('lobe', 'Lobe lift, mm', 'card.lobe_lift_mm'),
      engineField('rocker', 'Rocker ratio', 'card.rocker_ratio', '1.6'),
    ],
    answer: ({ engine: e }) => (e.duration ? `${e.duration}°${e.separation && ` on ${e.separation}°`}` : ''),
    follows: ['Intake duration', 'Overlap', 'Valve lift'],
  },
  {
    name: 'compression',
    line: 'Compression',
    ask: 'Which compression: stated, or by its volumes?',
    of: 'engine',
    key: 'd',
    changes: 'runner tuning, knock',
    fields: ({ engine: e }) => [
      ...(e.chamber && e.gasket
        ? []
        : [engineField('compression', 'Compression ratio, stated', 'compression_ratio')]),
      engineField('chamber', 'Chamber, cm³', 'card.chamber_cm3'),
      engineField('crown', 'Crown: dish +, dome −, cm³', 'card.crown_cm3'),
      engineField('deck', 'Piston below deck, mm', 'card.deck_mm'),
      engineField('gasket', 'Gasket thickness, mm', 'card.gasket_mm'),
      engineField('gasketBore', 'Gasket bore, mm', 'card.gasket_bore_mm'),
    ],
    answer: ({ engine: e }) => (e.compression ? `${e.compression}:1` : e.chamber ? 'by volumes' : ''),
    follows: ['Compression', 'Volume at half stroke'],
  },
  {
    name: 'valves',
    line: 'Valves and head',
    ask: 'Which valves, ports and headers?',
    of: 'engine',
    key: 'v',
    changes: 'Mach index',
    fields: () => [
      engineField('valves', 'Intake valves', 'inlet_valve_count'),
      engineField('valve', 'Intake valve, mm', 'inlet_valve_mm'),
      engineField('exhaustValve', 'Exhaust valve, mm', 'card.exhaust_valve_mm'),
      engineField('portVolume', 'Head port volume, cm³', 'card.port_volume_cm3'),
      engineField('headers', 'Headers', 'card.headers', '4-2-1, 41 mm'),
    ],
    answer: ({ engine: e }) => joined([e.valves && `${e.valves} a cylinder`, e.valve && `${e.valve} mm`]),
    follows: ['Intake Mach index'],
  },
  {
    name: 'injectors',
    line: 'Injectors',
    ask: 'Which injectors?',
    of: 'engine',
    key: 'j',
    changes: 'duty',
    fields: () => [
      engineField('injector', 'Injector, cc/min', 'injector_cc_min'),
      engineField('rated', 'Rated at, kPa', 'injector_rated_kpa'),
      engineField('rail', 'Rail pressure, kPa', 'rail_kpa'),
    ],
    answer: ({ engine: e }) => (e.injector ? `${e.injector} cc/min` : ''),
    follows: ['Injector'],
  },
  {
    name: 'fuel',
    line: 'Fuel',
    ask: 'Which fuel?',
    of: 'engine',
    key: 'f',
    changes: 'injector flow, knock',
    fields: () => [
      { ...engineField('fuel', 'Fuel', 'fuel'), choices: options('petrol', 'E85', 'methanol') },
      engineField('ethanol', 'Ethanol in it, %', 'card.ethanol_percent', '10'),
      engineField('octane', 'Octane', 'card.octane', '98'),
    ],
    answer: ({ engine: e }) => joined([e.fuel, e.octane, e.ethanol && `${e.ethanol} % ethanol`]),
    follows: [],
  },
  {
    name: 'boost',
    line: 'Boost',
    ask: 'Is it boosted?',
    of: 'engine',
    key: 'b',
    changes: 'pressures behind the compressor',
    fields: ({ engine: e }) => [
      { ...engineField('boosted', 'Boosted', 'boosted'), check: true },
      ...(e.boosted ? [engineField('boost', 'Boost, kPa', 'boost_kpa')] : []),
    ],
    matters: ({ engine: e }) => e.boosted,
    answer: ({ engine: e }) => (e.boosted ? e.boost && `${e.boost} kPa` : 'none'),
    follows: [],
  },
]

const MORE: Ask = {
  name: 'more',
  line: 'Name and note',
  ask: 'What is the job called?',
  of: 'job',
  key: 'o',
  changes: 'board and sheet',
  fields: () => [
    jobField('title', 'Job name', 'title'),
    {
      ...jobField('standard', 'Correct pulls to', 'standard'),
      choices: [],
    },
    jobField('note', 'Note', 'note'),
  ],
  answer: ({ job }) => joined([job.title, job.note]),
  follows: [],
}

/** What is asked of a job, what decides first: a part that came by post is asked for no engine. */
export function questionsOf(posted: boolean, forms: Forms): Ask[] {
  if (posted) return [GOAL]
  const mattering = FOLDED.filter((a) => a.matters?.(forms)).map((a): Ask => ({ ...a, decides: true }))
  return [...ASKED.filter((a) => a.decides), ...mattering, ...ASKED.filter((a) => !a.decides)]
}
/** What folds away until it matters; a posted part's engine as a whole. */
export const foldedOf = (posted: boolean): Ask[] =>
  posted
    ? [
        ...ASKED.filter((a) => a !== GOAL).map((a, i) => ({ ...a, key: `${i + 1}`, changes: 'not needed' })),
        MORE,
      ]
    : [...FOLDED, MORE]
