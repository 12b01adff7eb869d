/** What a candidate is weighed by. */
export const CRITERIA = [
  { name: 'gain', label: 'air gain' },
  { name: 'price', label: 'price' },
  { name: 'work', label: 'fitting time' },
  { name: 'lead_time', label: 'lead time' },
  { name: 'mass', label: 'weight' },
]
export const MOST_WEIGHT = 9
export type Weights = Record<string, number>
