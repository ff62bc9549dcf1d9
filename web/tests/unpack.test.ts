import { expect, it } from 'vitest'

import { dataOf, shapeOfLines, unpackPaths } from '@/api/unpack'

const packed = (values: number[]) => Buffer.from(new Float32Array(values).buffer).toString('base64')

const lines = {
  points: packed([0, 0, 10, 0, 10, 5.00049, 0, 0, 3, 3, 3, 3]),
  start: [0, 4, 6],
  closed: [true, false],
}

it('draws closed outlines closed, open ones open, and a lone node as a dot', () => {
  expect(dataOf(lines)).toBe('M0 0L10 0L10 5ZM3 3L3 3')
})

it('makes shapes of lines, with their box', () => {
  const shape = shapeOfLines(lines)
  expect([...shape.start]).toEqual([0, 4, 6])
  expect([...shape.closed]).toEqual([1, 0])
  expect(shape.box[0]).toBe(0)
  expect(shape.box[3]).toBeCloseTo(5.00049, 5)
})

/** As server/api/drawing.py packs paths. */
function pack(
  table: [string, number, number, number][],
  floats: number[],
  counts: number[],
  nodes: number[],
  closed: number[],
  corners: number[],
) {
  let head = JSON.stringify(table)
  head += ' '.repeat((4 - (head.length % 4)) % 4)
  const size = Buffer.alloc(4)
  size.writeUInt32LE(head.length)
  const parts = [size, Buffer.from(head), Buffer.from(new Float32Array(floats).buffer), Buffer.from(new Uint32Array(counts).buffer)]
  parts.push(Buffer.from(new Float32Array(nodes).buffer), Buffer.from(closed), Buffer.from(corners))
  return Uint8Array.from(Buffer.concat(parts)).buffer
}

it('unpacks paths, each with its outlines and nodes', () => {
  const bytes = pack(
    [
      ['a', 4, 1, 3],
      ['bc', 5, 2, 3],
    ],
    [0, 0, 1, 0, 1, 1, 0, 0, 5, 5, 6, 5, 7, 7, 8, 7, 8, 9],
    [4, 2, 3],
    [0, 0, 1, 0, 1, 1, 5, 5, 6, 5, 7, 7],
    [1, 0, 0],
    [1, 1, 1, 0, 1, 0],
  )
  const shapes = unpackPaths(bytes)
  expect([...shapes.keys()]).toEqual(['a', 'bc'])
  const second = shapes.get('bc')!
  expect([...second.start]).toEqual([0, 2, 5])
  expect([...second.points.slice(4, 6)]).toEqual([7, 7])
  expect([...second.closed]).toEqual([0, 0])
  expect([...second.corners]).toEqual([0, 1, 0])
  expect(second.box).toEqual([5, 5, 8, 9])
  expect(shapes.get('a')!.box).toEqual([0, 0, 1, 1])
})
