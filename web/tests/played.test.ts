import { describe, expect, it } from 'vitest'

import { timeOf } from '@/composables/times'
import { before, nearestOn, placeAlong, placeIn, toolAt, type Played } from '@/stores/played'

/** Two lines: along x from 10 to 20 in 2 s, and up from there, 10 mm away, in 4 s; 1 s to the first, 3 s between. */
const WORK = {
  program: { home: [0, 0], runs: { tool: [0, 0] }, tools: [{ treatment: 'cut', speed_mm_s: 5 }] },
  points: Float32Array.from([10, 0, 15, 0, 20, 0, 30, 0, 30, 10]),
  clock: Float32Array.from([0, 1, 2, 0, 4]),
  start: [0, 3, 5],
  leaves: Float64Array.from([0, 3]),
  begins: Float64Array.from([1, 6]),
  ends: Float64Array.from([3, 10]),
} as unknown as Played

describe('the tool on its way', () => {
  it('is between the points that it has come to', () => {
    expect(placeIn(WORK, 0, 0)).toEqual([10, 0])
    expect(placeIn(WORK, 0, 1.5)).toEqual([17.5, 0])
    expect(placeIn(WORK, 1, 99)).toEqual([30, 10])
  })
  it('comes from where it was before', () => {
    expect(before(WORK, 0)).toEqual([0, 0])
    expect(before(WORK, 1)).toEqual([20, 0])
    expect(toolAt(WORK, 0, 0.5)).toEqual([5, 0])
    expect(toolAt(WORK, 1, 4.5)).toEqual([25, 0])
    expect(toolAt(WORK, 1, 8)).toEqual([30, 5])
  })
  it('is picked by the line that is nearest', () => {
    expect(nearestOn(WORK, [0, 1], 14, 0.4, 1)).toEqual({ run: 0, place: [14, 0] })
    expect(nearestOn(WORK, [0, 1], 29.5, 6, 1)).toEqual({ run: 1, place: [30, 6] })
    expect(nearestOn(WORK, [0], 29.5, 6, 1)).toBeNull()
    expect(nearestOn(WORK, [0, 1], 25, 5, 1)).toBeNull()
  })
  it('is found so far along a line, round and round', () => {
    expect(placeAlong(WORK, [0], 7)).toEqual([17, 0])
    expect(placeAlong(WORK, [0], 13)).toEqual([13, 0])
    expect(placeAlong(WORK, [0, 1], 14)).toEqual([30, 4])
    expect(placeAlong(WORK, [], 4)).toBeNull()
  })
})

describe('how long it takes', () => {
  it('is said in two units at most', () => {
    expect([0.4, 61, 3605, 7325].map(timeOf)).toEqual(['0 s', '1 min 01 s', '1 h 00 min', '2 h 02 min'])
  })
})
