import { expect, it } from 'vitest'

import type { Layer, Piece } from '@/api/types'
import { boxOf, type Shape } from '@/api/unpack'
import { covers, nearestLine, Picker, type Target } from '@/canvas/picker'
import { spreadOf } from '@/canvas/spread'
import type { Drawn } from '@/stores/drawing'

const ring = (x: number, y: number, r: number, n = 200, back = false): number[] =>
  Array.from({ length: n + 1 }, (_, i) => ((back ? -(i % n) : i % n) / n) * 2 * Math.PI).flatMap((t) => [
    x + r * Math.cos(t),
    y + r * Math.sin(t),
  ])

export function shapeFrom(rings: number[][], closed = true): Shape {
  const points = Float32Array.from(rings.flat())
  const start = new Uint32Array(rings.length + 1)
  rings.forEach((one, i) => (start[i + 1] = start[i] + one.length / 2))
  const nodes = Float32Array.from(rings.flatMap((one) => one.slice(0, 4)))
  return {
    points,
    start,
    closed: new Uint8Array(rings.length).fill(Number(closed)),
    nodes,
    corners: new Uint8Array(nodes.length / 2),
    box: boxOf(points),
  }
}

const layer: Layer = { id: 'l', name: 'Card', color: '#112233', treatment: 'cut', material: null }
function target(id: string, shape: Shape, fill: string | null = '#112233'): Target {
  const piece = { id, name: id, path: id, layer: 'l', fill_rule: 'nonzero', fill, fill_opacity: 1, stroke: null, opacity: 1 } as Piece
  return { drawn: { piece, layer, shape } as Drawn, key: id, shape, dx: 0, dy: 0 }
}
const names = (picker: Picker, x: number, y: number, reach: number) => picker.at(x, y, reach).map((hit) => hit.target.drawn.piece.id)

it('covers what the fill rule fills, holes left out', () => {
  const annulus = shapeFrom([ring(0, 0, 10), ring(0, 0, 5, 200, true)])
  expect([covers(annulus, 7, 0, 'nonzero'), covers(annulus, 0, 0, 'nonzero'), covers(annulus, 11, 0, 'nonzero')]).toEqual([
    true,
    false,
    false,
  ])
  const same = shapeFrom([ring(0, 0, 10), ring(0, 0, 5)])
  expect([covers(same, 0, 0, 'nonzero'), covers(same, 0, 0, 'evenodd')]).toEqual([true, false])
  const open = shapeFrom([[0, 0, 10, 0, 10, 10]], false)
  expect([covers(open, 8, 2, 'nonzero'), covers(open, 2, 8, 'nonzero')]).toEqual([true, false])
})

it('finds the nearest outline and how far it is, as by all distances', () => {
  const shape = shapeFrom([ring(0, 0, 10), ring(0, 0, 5, 300, true)])
  for (const [x, y] of [
    [9.5, 0.4],
    [3, 3.2],
    [-7.2, 0.1],
  ]) {
    const found = nearestLine(shape, x, y, 4)!
    const r = Math.hypot(x, y)
    const true_ = Math.min(Math.abs(r - 10), Math.abs(r - 5))
    expect(found.distance).toBeCloseTo(true_, 2)
    expect(found.outline).toBe(Math.abs(r - 10) < Math.abs(r - 5) ? 0 : 1)
  }
  expect(nearestLine(shape, 0, 0, 4)).toBeNull()
})

it('puts tiny things and near lines before what is filled, and the topmost of these first', () => {
  const picker = new Picker([
    target('under', shapeFrom([ring(0, 0, 20)])),
    target('over', shapeFrom([ring(0, 0, 15)])),
    target('speck', shapeFrom([ring(3, 3, 0.2)])),
  ])
  expect(names(picker, 3.4, 3, 0.5)).toEqual(['speck', 'over', 'under'])
  expect(names(picker, -5, 0, 0.5)).toEqual(['over', 'under'])
  expect(names(picker, 20.3, 0, 0.5)).toEqual(['under'])
  expect(names(picker, 40, 0, 0.5)).toEqual([])
})

it('reaches what only has lines about it by a click inside, the smallest first', () => {
  const picker = new Picker([target('slot', shapeFrom([ring(0, 0, 3)]), null), target('plate', shapeFrom([ring(0, 0, 30)]), null)])
  expect(names(picker, 0, 0, 0.5)).toEqual(['slot', 'plate'])
})

it('takes into a band only what lies wholly in it, and finds nodes', () => {
  const picker = new Picker([target('a', shapeFrom([ring(0, 0, 5)])), target('b', shapeFrom([ring(20, 0, 5)]))])
  expect(picker.within([-6, -6, 6, 6]).map((one) => one.key)).toEqual(['a'])
  expect(picker.within([-6, -6, 24, 6]).map((one) => one.key)).toEqual(['a'])
  expect(picker.node(25.1, 0.1, 1)?.target.key).toBe('b')
  expect(new Picker([]).at(0, 0, 1)).toEqual([])
})

it('spreads shapes apart without any two of them overlapping, compounds into their shapes', () => {
  const drawn = [
    target('word', shapeFrom([ring(0, 0, 5), ring(30, 0, 8), ring(30, 0, 3, 200, true)])),
    target('disc', shapeFrom([ring(0, 0, 5)])),
  ].map((one) => one.drawn)
  const spread = spreadOf(drawn, { word: [[0], [1, 2]] })
  expect(spread.targets.map((one) => one.key)).toEqual(['word/0', 'word/1', 'disc'])
  expect(spread.targets[1].shape.closed.length).toBe(2)
  const boxes = spread.targets.map(({ shape: { box }, dx, dy }) => [box[0] + dx, box[1] + dy, box[2] + dx, box[3] + dy])
  for (let a = 0; a < boxes.length; a++) {
    for (let b = a + 1; b < boxes.length; b++) {
      const apart = boxes[a][2] <= boxes[b][0] || boxes[b][2] <= boxes[a][0] || boxes[a][3] <= boxes[b][1] || boxes[b][3] <= boxes[a][1]
      expect(apart).toBe(true)
    }
  }
  // What is drawn is where it was: only the drawing is moved.
  expect(drawn[1].shape.box[0]).toBeCloseTo(-5, 3)
})
