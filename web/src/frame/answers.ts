/**
 * Answers to what a screen asks: Alt and the answer's digit, wherever the cursor stands, or arrows and Enter. A bare
 * digit is never an answer: it is the first of the next figure.
 */
import { onBeforeUnmount, onMounted, shallowReactive } from 'vue'

type Pressed = Pick<KeyboardEvent, 'code' | 'altKey' | 'ctrlKey' | 'metaKey'>

/** Answers by number; whether there was such an answer. */
type Answer = (number: number) => boolean

const asking = shallowReactive<Answer[]>([])

/** The number of a chord of Alt and a digit. `code` is the key itself: with Alt some keyboards write other signs. */
export function chordOf(event: Pressed): number | undefined {
  const digit = /^(?:Digit|Numpad)(\d)$/.exec(event.code)?.[1]
  const alone = event.altKey && !event.ctrlKey && !event.metaKey
  return alone && digit ? Number(digit) : undefined
}

/** What is asked by the component that calls it; the question asked last is answered first. */
export function useAnswers(pick: Answer): void {
  onMounted(() => asking.push(pick))
  onBeforeUnmount(() => {
    const at = asking.indexOf(pick)
    if (at >= 0) asking.splice(at, 1)
  })
}

/** The one listener for answers. */
export function listenToAnswers(): void {
  addEventListener('keydown', (event) => {
    const number = chordOf(event)
    if (number === undefined || event.repeat) return
    if (asking.findLast((pick) => pick(number))) event.preventDefault()
  })
}

/** Arrows among the answers of one question: the next or the one before, round. Whether the key was an arrow. */
export function moveAmong(event: KeyboardEvent): boolean {
  const by = { ArrowDown: 1, ArrowRight: 1, ArrowUp: -1, ArrowLeft: -1 }[event.key]
  const group = event.currentTarget as HTMLElement
  const ways = [...group.querySelectorAll<HTMLElement>('.way')]
  if (!by || !ways.length) return false
  event.preventDefault()
  event.stopPropagation()
  const at = ways.indexOf(document.activeElement as HTMLElement)
  ways[(at + by + ways.length) % ways.length]?.focus()
  return true
}

/** The first answer of what is asked within an element; whether there is one. */
export function toAnswers(within: ParentNode = document): boolean {
  const first = within.querySelector<HTMLElement>('.ways .way')
  first?.focus()
  return !!first
}
