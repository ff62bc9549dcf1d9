import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it } from 'vitest'

import type { Draft } from '@/api/drafts'
import { drawnDimension } from '@/canvas/dimensions'
import { withMoved } from '@/canvas/moved'
import { outlineOf } from '@/composables/keepOutline'
import { PX_PER_MM, useScreenSize } from '@/composables/screenSize'
import { useUnits } from '@/composables/units'

beforeEach(() => setActivePinia(createPinia()))

const square = (x: number, y: number, side: number) => [x, y, x + side, y, x + side, y + side, x, y + side, x, y]
function shapeOf(...outlines: number[][]) {
  const points = Float32Array.from(outlines.flat())
  const start = Uint32Array.from(outlines.reduce((ends, row) => [...ends, ends[ends.length - 1] + row.length / 2], [0]))
  return {
    points,
    start,
    closed: new Uint8Array(outlines.length).fill(1),
    nodes: points,
    corners: new Uint8Array(),
    box: [0, 0, 0, 0] as [number, number, number, number],
  }
}

it('makes the outline with the largest box a target', () => {
  const made = outlineOf(shapeOf(square(5, 5, 2), square(0, 0, 10)))
  expect(made).toEqual({ width_mm: 10, height_mm: 10, outline: 'M0 0L10 0L10 10L0 10L0 0Z' })
})

it('moves a whole design by a matrix, with its strokes', () => {
  const shape = shapeOf(square(0, 0, 10))
  const piece = { id: 'a', path: 'p', stroke: { width_mm: 0.5, dashes: [1, 2] } }
  const draft = { moved: [2, 0, 0, 2, 3, 4], pieces: [], order: [], shapes: new Map() } as unknown as Draft
  const made = withMoved(draft, [{ piece, layer: {}, shape }] as never)
  expect(made.order).toEqual(['a'])
  expect([...made.shapes.values()][0].box).toEqual([3, 4, 23, 24])
  expect(made.pieces[0].stroke).toMatchObject({ width_mm: 1, dashes: [2, 4] })
  expect(withMoved({ ...draft, moved: null }, []).pieces).toEqual([])
})

it('draws dimensions with ticks at both ends, beside what is short, and angles as arcs', () => {
  const long = drawnDimension('distance', [
    [0, 0],
    [200, 0],
  ])
  expect(long.line.match(/M/g)).toHaveLength(3)
  expect(long.at).toEqual([100, 0])
  expect(
    drawnDimension('distance', [
      [0, 0],
      [30, 0],
    ]).at,
  ).toEqual([15, -20])
  expect(
    drawnDimension('radius', [
      [0, 0],
      [200, 0],
    ]).line.match(/M/g),
  ).toHaveLength(2)
  const angle = drawnDimension('angle', [
    [0, 0],
    [100, 0],
    [0, 100],
  ])
  expect(angle.line).toContain('A40 40 0 0 1')
  expect(angle.at[0]).toBeCloseTo(angle.at[1])
})

it('shows both units, and types in millimetres then', () => {
  const units = useUnits()
  units.choose('both')
  expect([units.text(25.4), units.one(25.4), units.size(25.4, 50.8)]).toEqual(['25.4 mm (1 in)', '25.4 mm', '25.4 × 50.8 mm (1 × 2 in)'])
  units.toggle()
  expect(units.unit).toBe('mm')
})

it('keeps how large the screen shows things, within what a screen can be', () => {
  const screen = useScreenSize()
  expect(screen.pxPerMm.value).toBe(PX_PER_MM)
  screen.set(424 / 85.6)
  expect(screen.isMeasured.value).toBe(true)
  screen.set(1e6)
  expect(screen.pxPerMm.value).toBe(40)
  screen.set(null)
  expect(screen.pxPerMm.value).toBe(PX_PER_MM)
})
