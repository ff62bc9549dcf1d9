import { expect, it } from 'vitest'

import { dataOf, shapeOf } from '@/api/unpack'

const packed = (values: number[]) => Buffer.from(new Float32Array(values).buffer).toString('base64')

const lines = {
  points: packed([0, 0, 10, 0, 10, 5.00049, 0, 0, 3, 3, 3, 3]),
  start: [0, 4, 6],
  closed: [true, false],
}

it('draws closed outlines closed, open ones open, and a lone node as a dot', () => {
  expect(dataOf(lines)).toBe('M0 0L10 0L10 5ZM3 3L3 3')
})

it('keeps nodes with their kinds', () => {
  const shape = shapeOf({ ...lines, nodes: packed([1, 2, 3, 4]), corners: Buffer.from([1, 0]).toString('base64') })
  expect([...shape.nodes]).toEqual([1, 2, 3, 4])
  expect([...shape.corners]).toEqual([1, 0])
})
