import { describe, expect, it } from 'vitest'
import { layOut, scaleBar, type Frame, type PathElement, type PathNode } from './layout'

const frame: Frame = {
  width: 1000,
  height: 160,
  left: 10,
  right: 90,
  top: 20,
  bottom: 20,
  rowPitch: 16,
  labels: 40,
  stretch: false,
}
let made = 0

function element(kind: string, more: Partial<PathElement> = {}): PathNode {
  made += 1
  const node_id = `00000000-0000-4000-8000-${String(made).padStart(12, '0')}`
  return {
    type: 'element',
    element: { node_id, kind, label: kind, cut: false, ...more } as PathElement,
    nodes: [],
  }
}
const series = (...nodes: PathNode[]): PathNode => ({ type: 'series', nodes })
const branches = (...nodes: PathNode[]): PathNode => ({ type: 'branches', nodes })
const runners = (from: number, to: number, bank?: number) =>
  branches(
    ...Array.from({ length: to - from + 1 }, (_, i) =>
      element('runner', { cylinder: from + i, bank, bore_mm: 40, length_mm: 300 }),
    ),
  )

const engines: Record<string, { tree: PathNode; ports: number }> = {
  'two-bank eight on one plenum': {
    tree: series(
      element('filter'),
      element('throttle'),
      element('plenum'),
      branches(runners(1, 4, 1), runners(5, 8, 2)),
    ),
    ports: 8,
  },
  'flat six with two plenums': {
    tree: series(
      element('filter'),
      element('throttle'),
      branches(series(element('plenum'), runners(1, 3, 1)), series(element('plenum'), runners(4, 6, 2))),
    ),
    ports: 6,
  },
  'single without a plenum': {
    tree: series(element('filter'), element('throttle'), element('runner', { cylinder: 1 })),
    ports: 1,
  },
  'a throttle for each of four': {
    tree: branches(
      ...[1, 2, 3, 4].map((n) =>
        series(element('inlet'), element('throttle'), element('runner', { cylinder: n })),
      ),
    ),
    ports: 4,
  },
  'two ducts into one box': {
    tree: series(
      branches(element('inlet'), element('inlet')),
      element('filter'),
      element('plenum'),
      runners(1, 3),
    ),
    ports: 3,
  },
}

describe.each(Object.entries(engines))('%s', (_, { tree, ports }) => {
  const drawing = layOut(tree, frame)

  it('draws every port once, at the right edge, apart from each other', () => {
    const ends = drawing.shapes.filter((s) => s.port)
    expect(ends).toHaveLength(ports)
    for (const end of ends) expect(end.x1).toBeLessThanOrEqual(frame.width - frame.right + 0.5)
    const ys = ends.map((s) => s.yOut).sort((a, b) => a - b)
    for (let i = 1; i < ys.length; i++) expect(ys[i]! - ys[i - 1]!).toBeGreaterThan(8)
  })

  it('stays inside the frame', () => {
    for (const s of drawing.shapes) {
      expect(s.x0).toBeGreaterThanOrEqual(frame.left - 0.5)
      expect(Math.min(s.yIn - s.boreIn / 2, s.yOut - s.boreOut / 2)).toBeGreaterThanOrEqual(0)
      expect(Math.max(s.yIn + s.boreIn / 2, s.yOut + s.boreOut / 2)).toBeLessThanOrEqual(frame.height)
    }
  })
})

it('draws bores and lengths to one scale', () => {
  const tree = series(
    element('tube', { bore_mm: 70, length_mm: 420 }),
    element('plenum', { bore_mm: 88, length_mm: 330 }),
    runners(1, 5),
  )
  const { shapes, pxPerMm } = layOut(tree, frame)
  const tube = shapes.find((s) => s.element.kind === 'tube')!
  expect(tube.boreIn).toBeCloseTo(70 * pxPerMm)
  expect(tube.x1 - tube.x0).toBeCloseTo(420 * pxPerMm)
  expect(shapes.find((s) => s.element.kind === 'runner')!.boreOut).toBeCloseTo(40 * pxPerMm)
})

it('lets entries share the height of the plenum that they leave', () => {
  const tree = series(element('plenum', { bore_mm: 88 }), runners(1, 6))
  const { shapes } = layOut(tree, frame)
  const plenum = shapes[0]!
  const entries = shapes.slice(1).map((s) => s.boreIn)
  expect(entries.reduce((a, b) => a + b, 0)).toBeLessThan(plenum.boreOut)
})

it('stretches lengths, never bores, to fill a band', () => {
  const tree = series(
    element('tube', { bore_mm: 70, length_mm: 420 }),
    element('runner', { cylinder: 1, bore_mm: 40 }),
  )
  const plain = layOut(tree, { ...frame, height: 90 })
  const wide = layOut(tree, { ...frame, height: 90, stretch: true })
  expect(wide.pxPerMm).toBe(plain.pxPerMm)
  expect(wide.lengthPxPerMm).toBeGreaterThan(plain.lengthPxPerMm)
})

it('marks what nobody measured as assumed', () => {
  const { shapes } = layOut(series(element('tube'), element('runner', { cylinder: 1, bore_mm: 40 })), frame)
  expect(shapes.map((s) => s.assumed)).toEqual([true, false])
})

it('chooses a round length for the scale bar', () => {
  expect(scaleBar(0.5, 1000)).toEqual({ mm: 200, px: 100 })
})
