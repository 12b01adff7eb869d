import { afterEach, expect, it } from 'vitest'
import { belongsToField } from './keys'

afterEach(() => (document.body.innerHTML = ''))

function pressIn(html: string): KeyboardEvent {
  document.body.innerHTML = html
  const event = new KeyboardEvent('keydown', { key: 'a', bubbles: true })
  let seen: KeyboardEvent | undefined
  document.body.addEventListener('keydown', (e) => (seen = e), { once: true })
  document.body.firstElementChild?.dispatchEvent(event)
  return seen ?? event
}

it('leaves letters to fields', () => expect(belongsToField(pressIn('<input />'))).toBe(true))
it('leaves letters to lists that are open', () =>
  expect(belongsToField(pressIn('<span role="combobox"></span>'))).toBe(true))
it('takes letters from everywhere else', () => expect(belongsToField(pressIn('<p>text</p>'))).toBe(false))
it('takes letters from an empty entry cell, whose letters are commands', () => {
  expect(belongsToField(pressIn('<input data-commands="yes" value="" />'))).toBe(false)
  expect(belongsToField(pressIn('<input data-commands="yes" value="364 m" />'))).toBe(true)
})
