import { expect, it, vi } from 'vitest'
import { ref } from 'vue'
import type { Problem } from '@/api/client'
import { differences, plainName, staleWays } from './stale'

const problem = {
  code: 'stale',
  current: {
    version: 4,
    name: 'Tube 76',
    price: 120,
    features: { inlet: { opening_mm: 76 } },
    typed: { a: 'x' },
  },
  yours: { version: 3, name: 'Tube 76', price: null, features: { inlet: { opening_mm: 75 } }, typed: {} },
} as unknown as Problem

it('tells only where the two versions differ, inside of what is nested too', () => {
  expect(differences(problem)).toEqual([
    { name: 'price', theirs: '120', yours: '–' },
    { name: 'features.inlet.opening_mm', theirs: '76', yours: '75' },
  ])
})

it('reads a field by a plain name', () => {
  expect(plainName('features.inlet.opening_mm')).toBe('features inlet opening')
})

it('keeps mine on the version that is there now, or takes theirs', () => {
  const [version, keep, take] = [ref(3), vi.fn(), vi.fn()]
  const refused = ref<Problem | undefined>(problem)
  const ways = staleWays(refused, version, keep, take)
  ways.mine()
  expect([version.value, keep.mock.calls.length, take.mock.calls.length]).toEqual([4, 1, 0])
  ways.theirs()
  expect([refused.value, take.mock.calls.length]).toEqual([undefined, 1])
})
