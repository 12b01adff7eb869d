import { expect, it } from 'vitest'
import { asTree } from './buildTree'

const build = (id: string, copied_from_id: string | null = null) => ({ id, copied_from_id })

it('puts each build behind the one that it was copied from, and keeps its place in the list', () => {
  const builds = [build('stock'), build('long', 'stock'), build('wide', 'stock'), build('long, 76', 'long')]
  expect(asTree(builds).map((b) => [b.build.id, b.at, b.depth])).toEqual([
    ['stock', 0, 0],
    ['long', 1, 1],
    ['long, 76', 3, 2],
    ['wide', 2, 1],
  ])
})

it('takes what was copied from a build that is gone for a root', () => {
  expect(asTree([build('stock'), build('left', 'gone')]).map((b) => b.depth)).toEqual([0, 0])
})
