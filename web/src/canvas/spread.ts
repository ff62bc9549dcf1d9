import type { Shape } from '@/api/unpack'
import { boxOf } from '@/api/unpack'
import type { Drawn } from '@/stores/drawing'

import type { Scene } from './board/scene'
import { asArt, type Side } from './looks'
import type { Target } from './picker'

export interface Spread {
  scene: Scene
  labels: Side['labels']
  targets: Target[]
  box: [number, number, number, number] | null
}

/** Shapes drawn apart, a block for each layer under its name, the largest first; nothing is changed. apart: the outlines
 * of each shape of those paths that have several. */
export function spreadOf(drawn: Drawn[], apart: Record<string, number[][]>): Spread {
  const shapes = new Map<string, Shape>()
  const layers = new Map<string, Target[]>()
  for (const one of drawn) {
    const parts = apart[one.piece.path]
    const own = layers.get(one.layer.id) ?? []
    layers.set(one.layer.id, own)
    if (!parts) {
      shapes.set(one.piece.path, one.shape)
      own.push({ drawn: one, key: one.piece.path, shape: one.shape, dx: 0, dy: 0 })
      continue
    }
    parts.forEach((outlines, number) => {
      const key = `${one.piece.path}/${number}`
      const shape = shapes.get(key) ?? part(one.shape, outlines)
      shapes.set(key, shape)
      own.push({ drawn: one, key, shape, dx: 0, dy: 0, outlines })
    })
  }
  const all = [...layers.values()].flat()
  const gap = Math.max(...all.map(({ shape }) => Math.max(wide(shape), high(shape))), 0.1) * 0.08
  const room = Math.max(
    Math.sqrt(all.reduce((sum, { shape }) => sum + (wide(shape) + gap) * (high(shape) + gap), 0)) * 1.3,
    ...all.map(({ shape }) => wide(shape)),
  )
  const labels: Side['labels'] = []
  let y = 0
  for (const targets of layers.values()) {
    const layer = targets[0].drawn.layer
    labels.push({ text: `${layer.name}, ${targets.length}`, x: 0, y })
    y = laidOut(targets, y + 2 * gap, room, gap) + 2 * gap
  }
  const items = all.map((target) => ({ ...asArt(target.drawn), shape: target.key, dx: target.dx, dy: target.dy }))
  return { scene: { items, shapes }, labels, targets: all, box: all.length ? [0, 0, room, y] : null }
}

const wide = ({ box }: Shape) => box[2] - box[0]
const high = ({ box }: Shape) => box[3] - box[1]

/** Puts things in rows, the highest first; gives the lower end of the last row. */
function laidOut(targets: Target[], top: number, room: number, gap: number): number {
  let [x, y, row] = [0, top, 0]
  for (const target of [...targets].sort((a, b) => high(b.shape) - high(a.shape))) {
    if (x > 0 && x + wide(target.shape) > room) {
      x = 0
      y += row + gap
      row = 0
    }
    target.dx = x - target.shape.box[0]
    target.dy = y - target.shape.box[1]
    x += wide(target.shape) + gap
    row = Math.max(row, high(target.shape))
  }
  return y + row
}

/** Some of the outlines of a shape as a shape of its own. */
function part(shape: Shape, outlines: number[]): Shape {
  const pieces = outlines.map((k) => shape.points.subarray(2 * shape.start[k], 2 * shape.start[k + 1]))
  const points = new Float32Array(pieces.reduce((sum, piece) => sum + piece.length, 0))
  const start = new Uint32Array(outlines.length + 1)
  pieces.forEach((piece, i) => {
    points.set(piece, 2 * start[i])
    start[i + 1] = start[i] + piece.length / 2
  })
  const closed = Uint8Array.from(outlines, (k) => shape.closed[k])
  return { points, start, closed, nodes: new Float32Array(), corners: new Uint8Array(), box: boxOf(points) }
}
