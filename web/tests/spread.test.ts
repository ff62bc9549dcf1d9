import { expect, it } from 'vitest'

import type { Layer, Piece } from '@/api/types'
import { boxOf, type Shape } from '@/api/unpack'
import { spreadOf } from '@/canvas/spread'
import type { Drawn } from '@/stores/drawing'

const layer = (id: string): Layer => ({ id, name: `Layer ${id}`, color: '#111111', treatment: 'cut', material: null })
const CARD = layer('card')
const FILM = layer('film')

/** Squares of a side, each an outline, as one shape. */
function squares(path: string, on: Layer, at: [number, number, number][]): Drawn {
  const points = Float32Array.from(at.flatMap(([x, y, side]) => [x, y, x + side, y, x + side, y + side, x, y + side, x, y]))
  const shape: Shape = {
    points,
    start: Uint32Array.from(at.map((_, k) => 5 * k).concat(5 * at.length)),
    closed: new Uint8Array(at.length).fill(1),
    nodes: new Float32Array(),
    corners: new Uint8Array(),
    box: boxOf(points),
  }
  const piece = {
    id: path,
    name: path,
    path,
    layer: on.id,
    fill_rule: 'nonzero',
    fill: '#cc0000',
    fill_opacity: 1,
    stroke: null,
    opacity: 1,
  } as Piece
  return { piece, layer: on, shape }
}
const boxes = (made: ReturnType<typeof spreadOf>) =>
  made.targets.map(({ shape: { box }, dx, dy }) => [box[0] + dx, box[1] + dy, box[2] + dx, box[3] + dy])
const apart = (a: number[], b: number[]) => a[2] <= b[0] || b[2] <= a[0] || a[3] <= b[1] || b[3] <= a[1]

it('lays everything out by itself, none on another, within its box', () => {
  const drawn = Array.from({ length: 23 }, (_, k) => squares(`p${k}`, k % 3 ? CARD : FILM, [[3, 3, 1 + (k % 7)]]))
  const made = spreadOf(drawn, {})
  const all = boxes(made)
  for (let a = 0; a < all.length; a++) {
    for (let b = 0; b < a; b++) expect(apart(all[a], all[b])).toBe(true)
    expect(all[a][0]).toBeGreaterThanOrEqual(0)
    expect(all[a][2]).toBeLessThanOrEqual(made.box![2] + 1e-4)
    expect(all[a][3]).toBeLessThanOrEqual(made.box![3])
  }
})

it('has a block for each layer under its name, one after the other', () => {
  const made = spreadOf([squares('a', CARD, [[0, 0, 5]]), squares('b', FILM, [[0, 0, 9]]), squares('c', CARD, [[0, 0, 2]])], {})
  expect(made.labels.map(({ text }) => text)).toEqual(['Layer card, 2', 'Layer film, 1'])
  const [first, second] = made.labels.map(({ y }) => y)
  for (const { drawn, shape, dy } of made.targets) {
    if (drawn.layer === CARD) expect(shape.box[3] + dy).toBeLessThan(second)
    else expect(shape.box[1] + dy).toBeGreaterThan(second)
    expect(shape.box[1] + dy).toBeGreaterThan(first)
  }
})

it('parts what is several things, and keeps holes with what they are in', () => {
  const drawn = squares('two', CARD, [
    [0, 0, 20],
    [5, 5, 3],
    [50, 0, 4],
  ])
  const made = spreadOf([drawn], { two: [[0, 1], [2]] })
  expect(made.targets.map(({ outlines }) => outlines)).toEqual([[0, 1], [2]])
  const [ring, square] = made.targets.map(({ shape }) => shape)
  expect([...ring.start]).toEqual([0, 5, 10])
  expect([...square.points]).toEqual([...drawn.shape.points.slice(20)])
  expect(square.box).toEqual([50, 0, 54, 4])
  expect(made.scene.items.map(({ shape }) => shape)).toEqual(['two/0', 'two/1'])
})

it('uses the parts of one path for all that are drawn by it', () => {
  const one = squares('same', CARD, [
    [0, 0, 20],
    [50, 0, 4],
  ])
  const other = { ...one, piece: { ...one.piece, id: 'other' } }
  const made = spreadOf([one, other], { same: [[0], [1]] })
  expect(made.targets).toHaveLength(4)
  expect(made.scene.shapes.size).toBe(2)
})

it('is nothing of nothing', () => {
  expect(spreadOf([], {})).toMatchObject({ labels: [], targets: [], box: null })
})
