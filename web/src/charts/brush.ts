/** A band of speeds chosen on a plate by pointer: drawn at once, told as it changes. */
import { ref, type Ref } from 'vue'

const STEP = 50
const LEAST = 200

/** The band between two places on an axis, in steps of 50 rpm; nothing where it is too narrow to be meant. */
export function bandBetween(
  at: (place: number) => number,
  from: number,
  to: number,
  [low, high]: [number, number],
): [number, number] | undefined {
  const ends = [at(from), at(to)].map((speed) => Math.max(low, Math.min(high, speed)))
  const band = ends.map((speed) => Math.round(speed / STEP) * STEP).toSorted((a, b) => a - b)
  return band[1]! - band[0]! >= LEAST ? (band as [number, number]) : undefined
}

export function useBrush(
  box: Ref<HTMLElement | undefined>,
  at: (place: number) => number,
  span: () => [number, number],
  tell: (band: [number, number]) => void,
) {
  const band = ref<[number, number]>()
  let begun: number | undefined
  const placeOf = (event: PointerEvent) => event.clientX - (box.value?.getBoundingClientRect().left ?? 0)

  function start(event: PointerEvent): void {
    if (event.button !== 0) return
    begun = placeOf(event)
    ;(event.currentTarget as Element).setPointerCapture?.(event.pointerId)
  }

  function move(event: PointerEvent): void {
    if (begun === undefined) return
    const now = bandBetween(at, begun, placeOf(event), span())
    if (!now || (now[0] === band.value?.[0] && now[1] === band.value[1])) return
    band.value = now
    tell(now)
  }

  function end(): void {
    begun = undefined
    band.value = undefined
  }
  return { band, start, move, end }
}
