import { expect, it } from 'vitest'

import type { TracePreview } from '@/api/previews'
import { asTransform, inverted, through, type Plane } from '@/canvas/plane'
import { Regions } from '@/canvas/regions'

const square = (x: number, y: number, side: number) => [x, y, x + side, y, x + side, y + side, x, y + side, x, y]

/** A frame with a hole, a dot in that hole, and a single line beside them. */
function shown(): TracePreview {
  const outlines = [square(0, 0, 10), square(2, 2, 6), square(4, 4, 1), [12, 0, 12, 10]]
  const start = outlines.reduce<number[]>((at, o) => [...at, at.at(-1)! + o.length / 2], [0])
  const layer = { name: '', color: '#111111', base: '#111111' }
  const layers = [
    { ...layer, lines: false },
    { ...layer, lines: true },
  ]
  const parts = [
    ['1,1', 0, 2],
    ['44,44', 0, 1],
    ['120,50', 1, 1],
  ]
  return { layers, parts, points: new Float32Array(outlines.flat()), start: new Uint32Array(start) } as never
}

it('finds the piece, the hollow or the line at a place', () => {
  const regions = new Regions(shown())
  expect(regions.at(1, 1, 0.1)).toEqual({ part: 0, hollow: false })
  expect(regions.at(4.5, 4.5, 0.1)).toEqual({ part: 1, hollow: false })
  expect(regions.at(6.5, 6.5, 0.1)).toEqual({ part: 0, hollow: true })
  expect(regions.at(12.2, 5, 0.5)).toEqual({ part: 2, hollow: false })
  expect(regions.at(13, 5, 0.5)).toBe(null)
  expect(regions.outlines(0)).toEqual([0, 1])
})

it('goes through a slanted plane and back', () => {
  const plane: Plane = [0.1, 0.01, 3, -0.02, 0.12, 4, 1e-4, 2e-4, 1]
  const [x, y] = through(plane, 120, 80)
  const [u, v] = through(inverted(plane), x, y)
  expect(u).toBeCloseTo(120, 8)
  expect(v).toBeCloseTo(80, 8)
  // As a browser reads it: columns of four, the last of x, y and w.
  const m = asTransform(plane, 2, 5, 6).slice(9, -1).split(',').map(Number)
  const w = m[3] * 120 + m[7] * 80 + m[15]
  expect((m[0] * 120 + m[4] * 80 + m[12]) / w).toBeCloseTo(2 * x + 5, 8)
  expect((m[1] * 120 + m[5] * 80 + m[13]) / w).toBeCloseTo(2 * y + 6, 8)
})
