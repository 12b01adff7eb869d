/** Kinds of part, in the order of the air. */
export const PART_KINDS = [
  'inlet',
  'filter',
  'tube',
  'restrictor',
  'meter',
  'compressor',
  'cooler',
  'throttle',
  'adapter',
  'nitrous',
  'manifold',
  'head',
]
