import { describe, expect, it } from 'vitest'
import { blockOf, byRunner, readAs, rounds } from './block'

const BARE = '201.6\t202.0\n199.1\t198.7\n203,0\t203.4'

function read(text: string, runners: number, room = runners) {
  const block = blockOf(text)
  const found = readAs(block, runners, room)
  return found && { ...found, figures: byRunner(block, found.axis) }
}
const AS_ROWS = [
  ['201.6', '202.0'],
  ['199.1', '198.7'],
  ['203,0', '203.4'],
]

describe('a pasted block', () => {
  it('of as many rows as runners has a runner in each row', () => {
    expect(read(BARE, 3)).toEqual({ axis: 'rows', sure: true, figures: AS_ROWS })
  })
  it('of as many columns as runners has a runner in each column', () => {
    expect(read('201.6\t199.1\t203,0\n202.0\t198.7\t203.4', 3)).toMatchObject({
      axis: 'columns',
      figures: AS_ROWS,
    })
  })
  it('says itself what are runners', () => {
    const headed = 'runner\t1st\t2nd\n1\t201.6\t202.0\n2\t199.1\t198.7\n3\t203,0\t203.4'
    expect(read(headed, 5)).toEqual({ axis: 'rows', sure: true, figures: AS_ROWS })
    const above = '\t1\t2\t3\nfirst\t201.6\t199.1\t203,0\nsecond\t202.0\t198.7\t203.4'
    expect(read(above, 5)).toMatchObject({ axis: 'columns', figures: AS_ROWS })
    expect(read('Runner 1; 201.6; 202.0\nRunner 2; 199.1; 198.7', 2)).toMatchObject({
      axis: 'rows',
      figures: [
        ['201.6', '202.0'],
        ['199.1', '198.7'],
      ],
    })
  })
  it('that is square can be either, and is read by rows until it is turned', () => {
    const square = blockOf('1.5\t2.5\n3.5\t4.5')
    expect(readAs(square, 2, 2)).toEqual({ axis: 'rows', sure: false })
    expect(byRunner(square, 'columns')).toEqual([
      ['1.5', '3.5'],
      ['2.5', '4.5'],
    ])
  })
  it('with gaps leaves them out', () => {
    expect(read('201.6\t202.0\n199.1\t\n203\t203.4', 3)?.figures[1]).toEqual(['199.1'])
  })
  it('that has room nowhere is not read', () => {
    expect(read(BARE, 8, 1)).toBeUndefined()
  })
  it('does not take figures for numbers of runners', () => {
    expect(blockOf('201\t202\n199\t198').numbered).toBeUndefined()
    expect(blockOf('201.6\n199.1\n203.0').cells).toEqual([['201.6'], ['199.1'], ['203.0']])
  })
  it('of one line can be several rounds', () => {
    expect(rounds(['1', '2', '3', '4', '5', '6'], 3)?.cells).toEqual([
      ['1', '2', '3'],
      ['4', '5', '6'],
    ])
    expect(rounds(['1', '2', '3', '4'], 3)).toBeUndefined()
    expect(rounds(['1', '2', '3'], 3)).toBeUndefined()
  })
})
