import { expect, it } from 'vitest'
import { nextTick, ref } from 'vue'
import { Refused, Unreachable } from './client'
import { useSheet } from './sheet'

const soon = () => new Promise((resolve) => setTimeout(resolve))

it('shows the answer to the latest question, whichever is answered first', async () => {
  const answers: ((said: { words: string }) => void)[] = []
  const { sheet, load } = useSheet(() => new Promise<{ words: string }>((resolve) => answers.push(resolve)))
  const second = load()
  answers[1]?.({ words: 'second' })
  await second
  answers[0]?.({ words: 'first' })
  await soon()
  expect(sheet.value?.words).toBe('second')
})

it('has shown the last answer when it has loaded, though somebody asked again meanwhile', async () => {
  const answers: ((said: { words: string }) => void)[] = []
  const { sheet, load } = useSheet(() => new Promise<{ words: string }>((resolve) => answers.push(resolve)))
  const second = load()
  void load()
  answers[1]?.({ words: 'second' })
  setTimeout(() => answers[2]?.({ words: 'third' }))
  await second
  expect(sheet.value?.words).toBe('third')
})

it('asks again when what it was asked with changes', async () => {
  const units = ref('trade')
  const { sheet, loaded } = useSheet(async () => ({ units: units.value }), [units])
  await loaded
  units.value = 'metric'
  await nextTick()
  await soon()
  expect(sheet.value?.units).toBe('metric')
})

it('says why there is nothing to show, and keeps what is shown', async () => {
  const problem = { type: '', title: '', status: 404, code: 'not_found', detail: 'There is no job.' }
  const asked = [async () => Promise.reject(new Refused(problem)), async () => ({ words: 'there' })]
  const { sheet, failure, loaded, load } = useSheet(
    async () => (await asked.shift()?.()) ?? Promise.reject(new Unreachable()),
  )
  await loaded
  expect(failure.value).toBe('There is no job.')
  await load()
  expect([sheet.value?.words, failure.value]).toEqual(['there', ''])
  await expect(load()).rejects.toBeInstanceOf(Unreachable)
  expect(sheet.value?.words).toBe('there')
})
