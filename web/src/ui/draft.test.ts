import { beforeEach, describe, expect, it } from 'vitest'
import { useEdited } from './draft'

interface Form {
  bore: string
}

beforeEach(() => localStorage.clear())

describe('an edited form', () => {
  function saved() {
    const edited = useEdited<Form>('part.1')
    edited.refill({ bore: '74' }, 1)
    if (edited.form.value) edited.form.value.bore = '76'
    edited.settled()
    edited.refill({ bore: '76' }, 2)
    return edited
  }

  it('can bring back what stood there before it was kept, and keep that as any edit', () => {
    const { form, undoable, bringBack, dirty, version, settled } = saved()
    expect(undoable.value).toBe(true)
    bringBack()
    expect([form.value?.bore, dirty.value, version.value]).toEqual(['74', true, 2])
    settled()
    expect(undoable.value).toBe(true)
    bringBack()
    expect(form.value?.bore).toBe('76')
  })
  it('has nothing to bring back once something else is typed, nor where nothing was kept', () => {
    const { form, undoable } = saved()
    if (form.value) form.value.bore = '80'
    expect(undoable.value).toBe(false)
    const fresh = useEdited<Form>('part.2')
    fresh.refill({ bore: '74' }, 1)
    expect(fresh.undoable.value).toBe(false)
  })
  it('that is given up is not what was kept', () => {
    const edited = useEdited<Form>('part.3')
    edited.refill({ bore: '74' }, 1)
    if (edited.form.value) edited.form.value.bore = '76'
    edited.givenUp()
    expect(edited.undoable.value).toBe(false)
  })
})
