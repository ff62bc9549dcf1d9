import Flatbush from 'flatbush'

import type { Shape } from '@/api/unpack'
import type { Drawn } from '@/stores/drawing'

import type { Box } from './board/scene'

/** Something that can be picked, where it is drawn. outlines: the numbers in its piece of the shape's outlines, where
 * these are only some. */
export interface Target {
  drawn: Drawn
  key: string
  shape: Shape
  dx: number
  dy: number
  outlines?: number[]
}

/** Something under the pointer. outline: the number in its piece of the nearest outline; distance: to it, in mm, where
 * that is within reach; inside: whether the pointer is on what it encloses. */
export interface Hit {
  target: Target
  outline: number
  distance: number
  inside: boolean
}

const CHUNK = 24
/** Boxes of runs of points of a shape: left, top, right, bottom each; and the first point of each run, and of none. */
interface Runs {
  box: Float32Array
  first: Uint32Array
  outline: Uint32Array
}
const known = new WeakMap<Shape, Runs>()

export function runsOf(shape: Shape): Runs {
  let runs = known.get(shape)
  if (!runs) known.set(shape, (runs = made(shape)))
  return runs
}

function made({ points, start, closed }: Shape): Runs {
  const first: number[] = []
  const outline: number[] = []
  for (let k = 0; k < closed.length; k++) {
    for (let i = start[k]; i < Math.max(start[k + 1] - 1, start[k] + 1); i += CHUNK) {
      first.push(i)
      outline.push(k)
    }
  }
  const box = new Float32Array(4 * first.length)
  for (let r = 0; r < first.length; r++) {
    const end = endOf(first[r], start[outline[r] + 1])
    let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity]
    for (let i = first[r]; i < end; i++) {
      const [x, y] = [points[2 * i], points[2 * i + 1]]
      if (x < left) left = x
      if (x > right) right = x
      if (y < top) top = y
      if (y > bottom) bottom = y
    }
    box.set([left, top, right, bottom], 4 * r)
  }
  return { box, first: Uint32Array.from(first), outline: Uint32Array.from(outline) }
}

/** A run ends with the first point of the next one. */
const endOf = (first: number, end: number) => Math.min(first + CHUNK + 1, end)

/** The nearest outline within reach, and how far it is. */
export function nearestLine(
  shape: Shape,
  x: number,
  y: number,
  reach: number,
): { outline: number; distance: number; x: number; y: number } | null {
  const { box, first, outline } = runsOf(shape)
  let best = reach
  let found = -1
  let [px, py] = [0, 0]
  for (let r = 0; r < first.length; r++) {
    const b = 4 * r
    if (box[b] - best > x || box[b + 2] + best < x || box[b + 1] - best > y || box[b + 3] + best < y) continue
    const end = endOf(first[r], shape.start[outline[r] + 1])
    for (let i = first[r]; i < Math.max(end - 1, first[r] + 1); i++) {
      const [ax, ay] = [shape.points[2 * i], shape.points[2 * i + 1]]
      const last = i + 1 < end ? i + 1 : i
      const [dx, dy] = [shape.points[2 * last] - ax, shape.points[2 * last + 1] - ay]
      const square = dx * dx + dy * dy
      const t = square ? Math.min(Math.max(((x - ax) * dx + (y - ay) * dy) / square, 0), 1) : 0
      const [qx, qy] = [ax + t * dx, ay + t * dy]
      const distance = Math.hypot(x - qx, y - qy)
      if (distance <= best) [best, found, px, py] = [distance, outline[r], qx, qy]
    }
  }
  return found < 0 ? null : { outline: found, distance: best, x: px, y: py }
}

/** The node nearest to a place, within reach, by its number. */
export function nearestNode(shape: Shape, x: number, y: number, reach: number): number | null {
  let best = reach
  let found: number | null = null
  for (let i = 0; i < shape.corners.length; i++) {
    const distance = Math.hypot(shape.nodes[2 * i] - x, shape.nodes[2 * i + 1] - y)
    if (distance <= best) [best, found] = [distance, i]
  }
  return found
}

/** How often the outlines run round a place; open ones count as painted, closed by a straight line. */
export function covers(shape: Shape, x: number, y: number, rule: 'nonzero' | 'evenodd'): boolean {
  const { box, first, outline } = runsOf(shape)
  const { points, start, closed } = shape
  let winding = 0
  const edge = (ax: number, ay: number, bx: number, by: number) => {
    if (ay <= y === by <= y) return
    if (ax + ((y - ay) / (by - ay)) * (bx - ax) > x) winding += by > ay ? 1 : -1
  }
  for (let r = 0; r < first.length; r++) {
    const b = 4 * r
    if (box[b + 1] > y || box[b + 3] < y || box[b + 2] < x) continue
    const end = endOf(first[r], start[outline[r] + 1])
    for (let i = first[r]; i + 1 < end; i++) edge(points[2 * i], points[2 * i + 1], points[2 * i + 2], points[2 * i + 3])
  }
  for (let k = 0; k < closed.length; k++) {
    if (closed[k]) continue
    const [a, b] = [start[k + 1] - 1, start[k]]
    edge(points[2 * a], points[2 * a + 1], points[2 * b], points[2 * b + 1])
  }
  return rule === 'evenodd' ? winding % 2 !== 0 : winding !== 0
}

/** Finds what is under the pointer, or in a band. */
export class Picker {
  private readonly tree: Flatbush | null

  constructor(readonly targets: Target[]) {
    this.tree = targets.length ? new Flatbush(targets.length) : null
    for (const { shape, dx, dy } of targets) this.tree!.add(shape.box[0] + dx, shape.box[1] + dy, shape.box[2] + dx, shape.box[3] + dy)
    this.tree?.finish()
  }

  /** All that is at a place, what is most likely meant first: tiny things and lines within reach, the nearest first; then
   * what is filled there, the topmost first; then what only has lines about it, the smallest first. */
  at(x: number, y: number, reach: number): Hit[] {
    const hits: (Hit & { rank: number; order: number })[] = []
    for (const number of this.tree?.search(x - reach, y - reach, x + reach, y + reach) ?? []) {
      const target = this.targets[number]
      const [px, py] = [x - target.dx, y - target.dy]
      const line = nearestLine(target.shape, px, py, reach)
      const { piece } = target.drawn
      const inside = covers(target.shape, px, py, piece.fill_rule)
      if (!line && !inside) continue
      const [left, top, right, bottom] = target.shape.box
      const tiny = Math.max(right - left, bottom - top) < 2 * reach
      const rank = line ? (tiny ? 0 : 1) : piece.fill ? 2 : 3
      const order = line ? line.distance : piece.fill ? -number : (right - left) * (bottom - top)
      const own = line?.outline ?? 0
      hits.push({ target, inside, rank, order, outline: target.outlines?.[own] ?? own, distance: line?.distance ?? Infinity })
    }
    return hits.sort((a, b) => a.rank - b.rank || a.order - b.order)
  }

  /** All that lies wholly in a box. */
  within([left, top, right, bottom]: Box): Target[] {
    return (this.tree?.search(left, top, right, bottom) ?? [])
      .sort((a, b) => a - b)
      .map((number) => this.targets[number])
      .filter(({ shape, dx, dy }) => {
        const box = shape.box
        return box[0] + dx >= left && box[2] + dx <= right && box[1] + dy >= top && box[3] + dy <= bottom
      })
  }

  /** The nearest line of all within reach. */
  line(x: number, y: number, reach: number) {
    let best: { target: Target; x: number; y: number; distance: number } | null = null
    for (const number of this.tree?.search(x - reach, y - reach, x + reach, y + reach) ?? []) {
      const target = this.targets[number]
      const found = nearestLine(target.shape, x - target.dx, y - target.dy, best?.distance ?? reach)
      if (found) best = { target, x: found.x + target.dx, y: found.y + target.dy, distance: found.distance }
    }
    return best
  }

  /** The nearest node of all within reach. */
  node(x: number, y: number, reach: number) {
    let best: { target: Target; node: number; x: number; y: number; distance: number } | null = null
    for (const number of this.tree?.search(x - reach, y - reach, x + reach, y + reach) ?? []) {
      const target = this.targets[number]
      const node = nearestNode(target.shape, x - target.dx, y - target.dy, best?.distance ?? reach)
      if (node === null) continue
      const [nx, ny] = [target.shape.nodes[2 * node] + target.dx, target.shape.nodes[2 * node + 1] + target.dy]
      best = { target, node, x: nx, y: ny, distance: Math.hypot(nx - x, ny - y) }
    }
    return best
  }
}
