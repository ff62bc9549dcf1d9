import { expect, it } from 'vitest'

import { boxOfChains, laid, nearestOf, type Chains } from '@/composables/sheetNearest'

/** A square about its centre, closed. */
const square = (half: number): Chains => [Float64Array.from([-half, -half, half, -half, half, half, -half, half, -half, -half])]
const at = (chains: Chains, x: number, y: number, turn = 0) => {
  const there = laid({ chains, x, y, turn })
  return { chains: there, box: boxOfChains(there) }
}

it('tells the least distance to what is nearest, and where', () => {
  const found = nearestOf(at(square(5), 0, 0).chains, [at(square(5), 30, 0), at(square(5), 13, 2), at(square(5), 0, -40)])
  expect(found?.mm).toBeCloseTo(3, 9)
  expect([found?.from[0], found?.to[0]]).toEqual([5, 8])
})

it('takes turned outlines as they lie', () => {
  // The corner of a square turned by 45 degrees reaches half a diagonal far.
  const found = nearestOf(at(square(5), 0, 0).chains, [at(square(5), 20, 0, 45)])
  expect(found?.mm).toBeCloseTo(15 - 5 * Math.SQRT2, 9)
})

it('is nothing where they overlap or one lies in the other', () => {
  expect(nearestOf(at(square(2), 0, 0).chains, [at(square(9), 0, 0)])?.mm).toBe(0)
  expect(nearestOf(at(square(9), 0, 0).chains, [at(square(2), 1, 0)])?.mm).toBe(0)
})

it('is nothing where two cross, though the corners of neither lie in the other', () => {
  const bar = (wide: number, high: number): Chains => {
    const points: number[] = []
    // As sampled outlines come: points all along.
    for (let k = -20; k <= 20; k++) points.push((wide * k) / 20, -high)
    for (let k = -20; k <= 20; k++) points.push(wide, (high * k) / 20)
    for (let k = 20; k >= -20; k--) points.push((wide * k) / 20, high)
    for (let k = 20; k >= -20; k--) points.push(-wide, (high * k) / 20)
    return [Float64Array.from(points)]
  }
  expect(nearestOf(at(bar(10, 1), 0, 0).chains, [at(bar(1, 10), 0.3, 0.3)])?.mm).toBe(0)
})

it('measures to the rim of the sheet from within, and is nothing beyond it', () => {
  const rim = { ...at(square(50), 0, 0), hollow: true }
  expect(nearestOf(at(square(5), 40, 0).chains, [rim])?.mm).toBeCloseTo(5, 9)
  expect(nearestOf(at(square(5), 70, 0).chains, [rim])?.mm).toBe(0)
})

it('does not look at what is farther off than what is found', () => {
  const far = Array.from({ length: 300 }, (_, k) => at(square(1), 100 + 3 * k, 0))
  const unread = { chains: null as unknown as Chains, box: [500, 500, 501, 501] as [number, number, number, number] }
  expect(nearestOf(at(square(5), 0, 0).chains, [...far, at(square(5), 11, 0), unread])?.mm).toBeCloseTo(1, 9)
})
