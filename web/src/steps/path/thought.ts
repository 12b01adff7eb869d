/** What is changed in thought on a build's air path, and its solution: one request at a time, the newest wins. */
import { computed, ref, shallowRef, watch, type Ref } from 'vue'
import type { PathElement, PathNode } from '@/airpath/layout'
import { api, problemIn, told, type Schemas } from '@/api/client'
import type { Preset } from '@/frame/session'

export type Solution = Schemas['Solution']

export interface Thought {
  bore_mm?: number
  part?: { state_id: string; name: string; bore_mm: number | null }
}

const LEAST_BORE = 8
const MOST_BORE = 250

/** The elements that are changed together with one: all runners, or the plenum and runners of one manifold. */
export function together(all: PathElement[], one: PathElement, part: boolean): PathElement[] {
  const manifold = ['plenum', 'runner']
  if (part && manifold.includes(one.kind)) return all.filter((e) => manifold.includes(e.kind))
  return one.cylinder == null ? [one] : all.filter((e) => e.kind === one.kind)
}

/** The kind of part that lies on the shelf for an element. */
export const shelfKind = (e: PathElement): string =>
  e.kind === 'plenum' || e.kind === 'runner' ? 'manifold' : e.kind

/** A tree with the bores that are thought of, to be drawn. */
export function redrawn(node: PathNode, thoughts: ReadonlyMap<string, Thought>): PathNode {
  if (!node.element) return { ...node, nodes: (node.nodes ?? []).map((n) => redrawn(n, thoughts)) }
  const thought = thoughts.get(node.element.node_id)
  if (!thought) return node
  const bore = thought.bore_mm ?? thought.part?.bore_mm ?? node.element.bore_mm
  const was = node.element.bore_out_mm ?? node.element.bore_mm
  const by = thought.bore_mm && was ? thought.bore_mm / Math.min(was, node.element.bore_mm ?? was) : 1
  const scaled = (mm: number | null | undefined) => (mm == null ? null : mm * by)
  const { bore_mm, bore_out_mm } = node.element
  const element: PathElement = thought.bore_mm
    ? { ...node.element, bore_mm: scaled(bore_mm) ?? thought.bore_mm, bore_out_mm: scaled(bore_out_mm) }
    : { ...node.element, bore_mm: bore, bore_out_mm: bore }
  return { ...node, element: { ...element, flow: null, ceiling: null } }
}

/** The smallest bore of an element, which a change in thought is about. */
export const smallestBore = (e: PathElement): number | null =>
  e.bore_mm == null ? null : Math.min(e.bore_mm, e.bore_out_mm ?? e.bore_mm)

export function useThought(build: Ref<Schemas['BuildView'] | undefined>, units: Ref<Preset>) {
  const rpm = ref<number>()
  /** Shares of one port drawn on the bench, instead of those at an engine speed. */
  const bench = ref(false)
  const thoughts = shallowRef<ReadonlyMap<string, Thought>>(new Map())
  const solution = shallowRef<Solution>()
  const failure = ref('')
  let busy = false
  let again = false

  async function solve(): Promise<void> {
    if (busy) {
      again = true
      return
    }
    const current = build.value
    if (!current) return
    busy = true
    again = false
    const changes = [...thoughts.value].map(([node_id, t]) => ({
      node_id,
      bore_mm: t.bore_mm ?? null,
      part_state_id: t.part?.state_id ?? null,
    }))
    try {
      const ask = { rpm: rpm.value ?? null, bench: bench.value, cylinder: 1, changes }
      const answer = await told(
        api.POST('/api/builds/{build_id}/solution', {
          params: { path: { build_id: current.id }, query: { units: units.value } },
          body: ask,
        }),
      )
      failure.value = ''
      if (build.value?.id === current.id) solution.value = answer
    } catch (error) {
      failure.value = problemIn(error, 'The picture is as it was.').detail
    } finally {
      busy = false
    }
    if (again) await solve()
  }

  function think(elements: PathElement[], thought: Thought | undefined): void {
    const next = new Map(thoughts.value)
    for (const e of elements) {
      if (thought) next.set(e.node_id, { ...next.get(e.node_id), ...thought })
      else next.delete(e.node_id)
    }
    thoughts.value = next
    void solve()
  }

  /** Another bore at an element, in mm, within what can be; a tenth is enough. */
  function widen(elements: PathElement[], bore: number): void {
    const bore_mm = Math.round(Math.min(MOST_BORE, Math.max(LEAST_BORE, bore)) * 10) / 10
    think(elements, { bore_mm })
  }

  function turn(by: number): void {
    const s = solution.value
    if (!s?.engine) return
    setRpm((rpm.value ?? s.rpm) + by)
  }

  function setRpm(to: number): void {
    const s = solution.value
    rpm.value = Math.round(Math.min(s?.rpm_high ?? to, Math.max(s?.rpm_low ?? to, to)) / 50) * 50
    void solve()
  }

  function putBack(): void {
    thoughts.value = new Map()
    void solve()
  }

  watch([() => build.value?.id, () => build.value?.version, units], ([id], [before]) => {
    if (id !== before) thoughts.value = new Map()
    void solve()
  })
  const swaps = computed(() => [...thoughts.value].filter(([, t]) => t.part && t.bore_mm === undefined))
  function turnBench(): void {
    bench.value = !bench.value
    void solve()
  }

  return { rpm, thoughts, solution, failure, swaps, solve, think, widen, turn, turnBench, setRpm, putBack }
}
