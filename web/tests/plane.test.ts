import { expect, it } from 'vitest'

import { asTransform, inverted, through, type Plane } from '@/canvas/plane'

const TILTED: Plane = [1.2, 0.3, 10, -0.2, 0.9, 4, 0.001, -0.002, 1]
const PLACES: [number, number][] = [
  [0, 0],
  [30, 5],
  [-12, 80],
  [100, 100],
]

it.each(PLACES)('there and back is where it was: %d, %d', (x, y) => {
  const [u, v] = through(TILTED, x, y)
  const back = through(inverted(TILTED), u, v)
  expect(back[0]).toBeCloseTo(x, 9)
  expect(back[1]).toBeCloseTo(y, 9)
})

it('maps straight lines to straight lines', () => {
  const [a, b, c] = [0, 0.3, 1].map((t) => through(TILTED, 10 + 50 * t, 20 - 90 * t))
  const cross = (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])
  expect(cross).toBeCloseTo(0, 9)
})

it.each(PLACES)('as a style it takes a pixel to the same place, scaled and shifted: %d, %d', (x, y) => {
  const [scale, left, top] = [2.5, 40, -7]
  const m = asTransform(TILTED, scale, left, top)
    .match(/-?[\d.e-]+(?=[,)])/g)!
    .map(Number)
  // CSS writes the four by four matrix column by column.
  const row = (r: number) => m[r] * x + m[4 + r] * y + m[12 + r]
  const [u, v] = through(TILTED, x, y)
  expect(row(0) / row(3)).toBeCloseTo(scale * u + left, 6)
  expect(row(1) / row(3)).toBeCloseTo(scale * v + top, 6)
})
