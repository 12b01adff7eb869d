/** What a candidate is weighed by. */
export const CRITERIA = [
  { name: 'gain', label: 'air gained' },
  { name: 'price', label: 'price' },
  { name: 'work', label: 'work to fit' },
  { name: 'lead_time', label: 'wait' },
  { name: 'mass', label: 'mass' },
]
export const MOST_WEIGHT = 9
export type Weights = Record<string, number>
