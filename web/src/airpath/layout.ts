/**
 * Where each element of an air path is drawn. Heights are bores to one scale; lengths are to the same scale, or
 * stretched to fill a band. Runners are drawn straightened and fanned out: their ports can be told apart, and their
 * entries, which lie behind one another, share the height of what they leave. Pure: a tree and a size in, shapes out.
 */
import type { Schemas } from '@/api/client'

export type PathNode = Schemas['PathNode']
export type PathElement = Schemas['PathElement']

/** Every element of a tree, in the order of the air. */
export function listed(node: PathNode): PathElement[] {
  return node.element ? [node.element] : (node.nodes ?? []).flatMap(listed)
}

/** One drawn element: its two ends with their centres and bores in px. */
export interface Shape {
  element: PathElement
  x0: number
  x1: number
  yIn: number
  yOut: number
  boreIn: number
  boreOut: number
  /** Nobody measured its bore: it is drawn open and hatched. */
  assumed: boolean
  /** It stands in a row of branches, so that only the first row is labelled. */
  row: number
  /** It ends the tree: a port. */
  port: boolean
}

/** A short pipe that leads a branch to its place. */
export interface Link {
  x0: number
  x1: number
  yIn: number
  yOut: number
  boreIn: number
  boreOut: number
}

export interface Drawing {
  shapes: Shape[]
  links: Link[]
  /** Scale of bores, px a mm. */
  pxPerMm: number
  /** Scale of lengths: the same, unless the frame lets them stretch. */
  lengthPxPerMm: number
}

export interface Frame {
  width: number
  height: number
  left: number
  right: number
  top: number
  bottom: number
  /** Least distance of two ports, px, so that their figures can be read. */
  rowPitch: number
  /** Room above and below a lone element for its figure and label, px. */
  labels: number
  /** Lengths may be stretched to fill the frame. */
  stretch: boolean
}

interface Size {
  length: number
  height: number
  rows: number
  /** Height of its tallest lone element, mm. */
  tallest: number
}

/** What is assumed of an element that nobody measured, mm: a usual one of its kind. */
const USUAL: Record<string, { bore: number; length: number }> = {
  inlet: { bore: 80, length: 60 },
  filter: { bore: 100, length: 160 },
  tube: { bore: 66, length: 320 },
  meter: { bore: 70, length: 90 },
  throttle: { bore: 62, length: 70 },
  adapter: { bore: 64, length: 40 },
  plenum: { bore: 86, length: 300 },
  runner: { bore: 42, length: 280 },
  head: { bore: 38, length: 90 },
}
const FALLBACK = { bore: 60, length: 100 }
const GAP_MM = 9
const LINK_MM = 60

export const boreOf = (e: PathElement): number => e.bore_mm ?? (USUAL[e.kind] ?? FALLBACK).bore
/** A length as it is written beside an element. */
export const inMm = (mm: number): string => `${Math.round(mm * 10) / 10} mm`
export const boreOutOf = (e: PathElement): number => e.bore_out_mm ?? boreOf(e)
export const lengthOf = (e: PathElement): number => e.length_mm ?? (USUAL[e.kind] ?? FALLBACK).length

const children = (node: PathNode): PathNode[] => node.nodes ?? []
const bends = (kind: string): boolean => kind === 'runner' || kind === 'tube'

function firstElement(node: PathNode): PathElement | undefined {
  return node.element ?? (children(node)[0] && firstElement(children(node)[0]!))
}

/** How many ports end a tree. */
export function portCount(node: PathNode): number {
  if (node.element) return 1
  const ends = node.type === 'series' ? children(node).slice(-1) : children(node)
  return ends.reduce((sum, child) => sum + portCount(child), 0)
}

/** Whether a branch needs a short pipe before its first element, which can't bend itself. */
function needsLink(node: PathNode): boolean {
  const first = firstElement(node)
  return first !== undefined && !bends(first.kind)
}

function sizeOf(node: PathNode, afterSomething: boolean): Size {
  if (node.element) {
    const height = Math.max(boreOf(node.element), boreOutOf(node.element)) + GAP_MM
    return { length: lengthOf(node.element), height, rows: 1, tallest: height }
  }
  const sizes = children(node).map((child, i) =>
    sizeOf(child, afterSomething || (node.type === 'series' && i > 0)),
  )
  if (node.type === 'series') {
    return {
      length: sizes.reduce((sum, s) => sum + s.length, 0),
      height: Math.max(...sizes.map((s) => s.height)),
      rows: Math.max(...sizes.map((s) => s.rows)),
      tallest: Math.max(...sizes.map((s) => s.tallest)),
    }
  }
  const link = afterSomething && children(node).some(needsLink) ? LINK_MM : 0
  return {
    length: link + Math.max(...sizes.map((s) => s.length)),
    height: sizes.reduce((sum, s) => sum + s.height, 0),
    rows: sizes.reduce((sum, s) => sum + s.rows, 0),
    tallest: Math.max(...sizes.map((s) => s.tallest)),
  }
}

/** What stands round the drawing, px: a slim band is as tall as its words allow. */
export const ROOMS = {
  mini: { left: 2, top: 3, bottom: 3, rowPitch: 0, labels: 0 },
  band: { left: 14, top: 5, bottom: 5, rowPitch: 13, labels: 36 },
  large: { left: 14, top: 8, bottom: 34, rowPitch: 34, labels: 110 },
}

/** Draw a tree into a frame, as large as both its length and its height allow. */
export function layOut(tree: PathNode, frame: Frame): Drawing {
  const size = sizeOf(tree, false)
  const room = { x: frame.width - frame.left - frame.right, y: frame.height - frame.top - frame.bottom }
  const byLength = room.x / size.length
  const byHeight = Math.min(room.y / size.height, (room.y - frame.labels) / size.tallest)
  const pxPerMm = Math.max(0.02, Math.min(byLength, byHeight))
  const lengthPxPerMm = frame.stretch ? byLength : pxPerMm
  const drawing: Drawing = { shapes: [], links: [], pxPerMm, lengthPxPerMm }
  const middle = frame.top + room.y / 2
  place(tree, {
    drawing,
    frame,
    x0: frame.left,
    x1: frame.width - frame.right,
    y: middle,
    entry: undefined,
    row: 0,
    room: room.y,
    last: true,
  })
  return drawing
}

interface Spot {
  drawing: Drawing
  frame: Frame
  x0: number
  /** Where the tree's ports lie: branches that end it reach there. */
  x1: number
  y: number
  /** Centre and bore of what this node's air comes from, px, where that is not straight ahead. */
  entry: { y: number; bore: number } | undefined
  row: number
  room: number
  last: boolean
  /** Bore of what follows, px, into which branches come together. */
  next?: number
}

/** Place a node; returns where it ended. */
function place(node: PathNode, spot: Spot): number {
  if (node.element) return placeElement(node.element, spot)
  return node.type === 'series' ? placeSeries(node, spot) : placeBranches(node, spot)
}

function placeElement(element: PathElement, spot: Spot): number {
  const { drawing } = spot
  const scale = drawing.pxPerMm
  const stretched = spot.last && element.cylinder != null && bends(element.kind)
  const x1 = stretched ? spot.x1 : spot.x0 + lengthOf(element) * drawing.lengthPxPerMm
  drawing.shapes.push({
    element,
    x0: spot.x0,
    x1,
    yIn: spot.entry?.y ?? spot.y,
    yOut: spot.y,
    boreIn: Math.min(boreOf(element) * scale, spot.entry?.bore ?? Infinity),
    boreOut: boreOutOf(element) * scale,
    assumed: element.bore_mm == null,
    row: spot.row,
    port: spot.last && element.cylinder != null,
  })
  return x1
}

function placeSeries(node: PathNode, spot: Spot): number {
  const nodes = children(node)
  let x = spot.x0
  let entry = spot.entry
  nodes.forEach((child, i) => {
    const last = spot.last && i === nodes.length - 1
    if (i > 0 && child.type === 'branches') entry = lastEnd(spot.drawing)
    const following = nodes[i + 1] && firstElement(nodes[i + 1]!)
    const next = following && boreOf(following) * spot.drawing.pxPerMm
    x = place(child, { ...spot, x0: x, entry, last, next })
    entry = undefined
  })
  return x
}

function lastEnd(drawing: Drawing): { y: number; bore: number } | undefined {
  const shape = drawing.shapes.at(-1)
  return shape && { y: shape.yOut, bore: Math.max(shape.boreOut, shape.boreIn) }
}

function placeBranches(node: PathNode, spot: Spot): number {
  const nodes = children(node)
  const scale = spot.drawing.pxPerMm
  const sizes = nodes.map((child) => sizeOf(child, true))
  const wanted = sizes.map((s) => Math.max(s.height * scale, s.rows * spot.frame.rowPitch))
  const total = wanted.reduce((a, b) => a + b, 0)
  const share = Math.min(1, spot.room / total)
  const linked = spot.entry && nodes.some(needsLink)
  const x0 = spot.x0 + (linked ? LINK_MM * spot.drawing.lengthPxPerMm : 0)
  let y = spot.y - (total * share) / 2
  let end = x0
  nodes.forEach((child, i) => {
    const room = (wanted[i] ?? 0) * share
    const centre = y + room / 2
    const entry = spot.entry && {
      y: spot.entry.y + ((i + 0.5) / nodes.length - 0.5) * spot.entry.bore * 0.9,
      bore: (spot.entry.bore * 0.86) / nodes.length,
    }
    if (linked && entry) {
      const first = firstElement(child)
      const bore = Math.min(entry.bore, first ? boreOf(first) * scale : entry.bore)
      spot.drawing.links.push({
        x0: spot.x0,
        x1: x0,
        yIn: entry.y,
        yOut: centre,
        boreIn: bore,
        boreOut: bore,
      })
    }
    const inner = { ...spot, x0, y: centre, entry: linked ? undefined : entry, row: spot.row + i, room }
    end = Math.max(end, place(child, inner))
    y += room
  })
  if (!spot.last) bringTogether(spot, nodes, end)
  return end + (spot.last ? 0 : LINK_MM * spot.drawing.lengthPxPerMm)
}

/** Pipes from branches that join again to where the path goes on. */
function bringTogether(spot: Spot, nodes: PathNode[], end: number): void {
  const names = new Set(nodes.map(lastElement))
  const ends = spot.drawing.shapes.filter((shape) => names.has(shape.element))
  const into = spot.next ?? Math.max(...ends.map((shape) => shape.boreOut))
  ends.forEach((shape, i) => {
    const yOut = spot.y + ((i + 0.5) / ends.length - 0.5) * into * 0.9
    const boreOut = Math.min(shape.boreOut, (into * 0.86) / ends.length)
    const x1 = end + LINK_MM * spot.drawing.lengthPxPerMm
    spot.drawing.links.push({ x0: shape.x1, x1, yIn: shape.yOut, yOut, boreIn: shape.boreOut, boreOut })
  })
}

function lastElement(node: PathNode): PathElement | undefined {
  const last = children(node).at(-1)
  return node.element ?? (last && lastElement(last))
}

/** Outline of one wall pair: upper and lower edge from end to end, bent where the ends are not level. */
export function walls(
  s: { x0: number; x1: number; yIn: number; yOut: number },
  boreIn: number,
  boreOut: number,
) {
  const edge = (sign: number) => {
    const [a, b] = [s.yIn + (sign * boreIn) / 2, s.yOut + (sign * boreOut) / 2]
    const half = (s.x1 - s.x0) * 0.45
    return { a, b, curve: `C${s.x0 + half},${a} ${s.x1 - half},${b} ${s.x1},${b}` }
  }
  const [upper, lower] = [edge(-1), edge(1)]
  const back = (s.x1 - s.x0) * 0.45
  return {
    upper: `M${s.x0},${upper.a}${upper.curve}`,
    lower: `M${s.x0},${lower.a}${lower.curve}`,
    body: `M${s.x0},${upper.a}${upper.curve}L${s.x1},${lower.b}C${s.x1 - back},${lower.b} ${s.x0 + back},${lower.a} ${s.x0},${lower.a}Z`,
  }
}

/** A round length for the scale bar that is about a tenth of the picture. */
export function scaleBar(pxPerMm: number, width: number): { mm: number; px: number } {
  const mm = [10, 20, 50, 100, 200, 500].find((length) => length * pxPerMm >= width * 0.06) ?? 500
  return { mm, px: mm * pxPerMm }
}
