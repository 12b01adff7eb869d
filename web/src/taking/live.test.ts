import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { useLive } from './live'

class Source extends EventTarget {
  static open: Source[] = []
  onerror: (event: Event) => void = () => undefined
  closed = false
  constructor(readonly url: string) {
    super()
    Source.open.push(this)
  }
  close() {
    this.closed = true
  }
  says(numbers: number[], more: object = {}) {
    const samples = numbers.map((number) => ({ number, flow_cfm: 200 + number / 10 }))
    const taken = { samples_cfm: [1], depression_inh2o: 28 }
    const data = JSON.stringify({ state: 'speaking', new: samples, taken, mean: {}, ...more })
    this.dispatchEvent(new MessageEvent('message', { data }))
  }
}

beforeEach(() => {
  Source.open = []
  vi.stubGlobal('EventSource', Source)
})
afterEach(() => vi.unstubAllGlobals())

const upTo = (last: number, count: number) => Array.from({ length: count }, (_, i) => last - count + 1 + i)

function listening(line: object | null = { port: 5125, samples: 10 }) {
  const bench = ref({ id: 'b1', line } as unknown as Schemas['BenchView'])
  const units = ref('trade')
  const scope = effectScope()
  const live = scope.run(() => useLive(bench, units))
  if (!live) throw new Error('no scope')
  return { bench, units, live, scope, source: () => Source.open.at(-1) as unknown as Source }
}

describe('a bench that sends', () => {
  it('is not asked where it has no line', () => {
    listening(null)
    expect(Source.open).toEqual([])
  })

  it('gives a figure from as many samples as the shop wants, none older than the last figure', () => {
    const { live, source } = listening()
    source().says(upTo(9, 9))
    expect([live.fresh.value, live.takeable.value]).toEqual([9, undefined])
    source().says([10])
    expect(live.takeable.value?.taken).toBeDefined()
    live.restart()
    source().says(upTo(19, 9))
    expect(live.takeable.value).toBeUndefined()
    source().says([20])
    expect(live.takeable.value).toBeDefined()
  })

  it('holds a strip of bounded length', () => {
    const { live, source } = listening()
    source().says(upTo(500, 500))
    expect(live.strip.value).toHaveLength(120)
    expect(live.strip.value.at(-1)).toBeCloseTo(250)
  })

  it('offers nothing once the line is gone, and says so', async () => {
    const { live, source } = listening()
    source().says(upTo(20, 20))
    source().onerror(new Event('error'))
    await nextTick()
    expect(live.takeable.value).toBeUndefined()
    expect(live.state.value?.words).toBe('Elvarn does not answer.')
  })

  it('listens anew on another line or in other units, and no longer on the old one', async () => {
    const { bench, units, live, scope, source } = listening()
    const first = source()
    source().says(upTo(20, 20))
    units.value = 'metric'
    await nextTick()
    expect(first.closed).toBe(true)
    expect(source().url).toContain('units=metric')
    expect(live.strip.value).toEqual([])
    bench.value = { ...bench.value, line: { ...bench.value.line, port: 5126 } } as Schemas['BenchView']
    await nextTick()
    expect(Source.open).toHaveLength(3)
    scope.stop()
    expect(source().closed).toBe(true)
  })
})
