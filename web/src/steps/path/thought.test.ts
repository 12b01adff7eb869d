import { describe, expect, it } from 'vitest'
import type { PathElement, PathNode } from '@/airpath/layout'
import { listed } from '@/airpath/layout'
import { redrawn, smallestBore, together } from './thought'

function element(node_id: string, kind: string, more: Partial<PathElement> = {}): PathElement {
  return {
    node_id,
    kind,
    label: node_id,
    cylinder: null,
    bank: null,
    bore_mm: 70,
    bore_out_mm: null,
    length_mm: null,
    volume_l: null,
    flow: null,
    ceiling: null,
    cut: false,
    part_id: null,
    part_state_id: null,
    ...more,
  }
}
const leaf = (e: PathElement): PathNode => ({ type: 'element', element: e, nodes: [] })
const tube = element('tube', 'tube')
const plenum = element('plenum', 'plenum', { bore_mm: 88 })
const runners = [1, 2].map((n) =>
  element(`runner ${n}`, 'runner', { cylinder: n, bore_mm: 44, bore_out_mm: 40 }),
)
const tree: PathNode = {
  type: 'series',
  element: null,
  nodes: [leaf(tube), leaf(plenum), { type: 'branches', element: null, nodes: runners.map(leaf) }],
}

describe('what is changed together', () => {
  it('is one element, or what each cylinder has for itself', () => {
    expect(together(listed(tree), tube, false)).toEqual([tube])
    expect(together(listed(tree), runners[0]!, false)).toEqual(runners)
  })
  it('is the whole manifold where a part is exchanged', () => {
    expect(together(listed(tree), plenum, true)).toEqual([plenum, ...runners])
    expect(together(listed(tree), tube, true)).toEqual([tube])
  })
})

describe('a tree with what is thought of', () => {
  it('keeps a taper when its smaller end is made wider', () => {
    const found = listed(redrawn(tree, new Map([['runner 1', { bore_mm: 42 }]])))
    const first = found.find((e) => e.node_id === 'runner 1')
    expect(first?.bore_out_mm).toBeCloseTo(42)
    expect(first?.bore_mm).toBeCloseTo(46.2)
    expect(found.find((e) => e.node_id === 'runner 2')).toEqual(runners[1])
  })
  it('shows another part by its measured bore, and leaves the first tree as it was', () => {
    const part = { state_id: 's', name: 'Wide', bore_mm: 76 }
    const found = listed(redrawn(tree, new Map([['tube', { part }]])))
    expect(found[0]?.bore_mm).toBe(76)
    expect(tube.bore_mm).toBe(70)
  })
  it('is about the smaller end', () => {
    expect(smallestBore(runners[0]!)).toBe(40)
    expect(smallestBore(element('x', 'tube', { bore_mm: null }))).toBeNull()
  })
})
