import { expect, it, vi } from 'vitest'

import { boxOf, type Shape } from '@/api/unpack'
import { pathOf } from '@/canvas/board/paths'
import { paint, pointsSeen } from '@/canvas/board/paint'
import { seen, touches, whole, widened, type Camera, type Scene } from '@/canvas/board/scene'

/** A path that only notes what it is made of. */
class Noted {
  points: [number, number][] = []
  closed = 0
  moveTo(x: number, y: number) {
    this.points.push([x, y])
  }
  lineTo(x: number, y: number) {
    this.points.push([x, y])
  }
  closePath() {
    this.closed++
  }
}
vi.stubGlobal('Path2D', Noted)

function line(points: [number, number][], closed = false): Shape {
  const all = Float32Array.from(points.flat())
  return {
    points: all,
    start: Uint32Array.from([0, points.length]),
    closed: Uint8Array.from([Number(closed)]),
    nodes: new Float32Array(),
    corners: new Uint8Array(),
    box: boxOf(all),
  }
}
const noted = (shape: Shape, scale: number) => pathOf(shape, scale) as unknown as Noted

function away([x, y]: [number, number], path: [number, number][]): number {
  let best = Infinity
  for (let i = 0; i + 1 < path.length; i++) {
    const [[ax, ay], [bx, by]] = [path[i], path[i + 1]]
    const [dx, dy] = [bx - ax, by - ay]
    const t = Math.min(Math.max(((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1), 0), 1)
    best = Math.min(best, Math.hypot(x - ax - t * dx, y - ay - t * dy))
  }
  return best
}

it.each([0.5, 2, 8, 30])('thins a line to what a scale of %d can show, and no farther', (scale) => {
  // A spiral with a notch and a turn back on itself.
  const points = Array.from({ length: 4000 }, (_, i): [number, number] => {
    const t = i / 120
    return [(5 + t) * Math.cos(t), (5 + t) * Math.sin(t)]
  })
  points.push([0, 0], [30, 0], [2, 0.001], [2, 30])
  const path = noted(line(points), scale)
  expect(path.points.length).toBeLessThan(points.length / 2)
  const off = Math.max(...points.map((point) => away(point, path.points)))
  expect(off * scale).toBeLessThan(0.13)
  expect(path.points.at(-1)).toEqual([2, 30])
})

it('keeps small things whole, closed ones closed, and shows a lone node', () => {
  const square = noted(
    line(
      [
        [0, 0],
        [1, 0],
        [1, 1],
        [0, 1],
        [0, 0],
      ],
      true,
    ),
    0.1,
  )
  expect([square.points.length, square.closed]).toEqual([4, 1])
  const dot = noted(
    line([
      [3, 3],
      [3, 3],
    ]),
    1,
  )
  expect(dot.points.at(-1)![0]).toBeGreaterThan(3)
})

const camera: Camera = { scale: 2, x: 10, y: 20, width: 200, height: 100, ratio: 2 }

it('knows what a camera sees', () => {
  expect(seen(camera)).toEqual([-5, -10, 95, 40])
  expect(seen(widened(camera, 0.2))).toEqual([-25, -20, 115, 50])
  const all = whole([10, 20, 110, 70], 1000)
  expect([10 * all.scale + all.x, 110 * all.scale + all.x]).toEqual([8, 1008])
})

it('paints only what is seen, where it is drawn, with widths in pixels of the screen', () => {
  const near = line([
    [0, 0],
    [10, 10],
  ])
  const far = line([
    [1000, 1000],
    [1010, 1010],
  ])
  const scene: Scene = {
    items: [
      { shape: 'near', stroke: '#123456', width: 3, screen: true, dashes: [4, 2] },
      { shape: 'far', stroke: '#123456' },
      { shape: 'far', fill: '#654321', dx: -995, dy: -995 },
    ],
    shapes: new Map([
      ['near', near],
      ['far', far],
    ]),
  }
  const did: string[] = []
  const context = {
    canvas: { width: 400, height: 200 },
    setTransform: (...values: number[]) => did.push(`at ${values[4]} ${values[5]}`),
    clearRect: () => did.push('clear'),
    setLineDash: (dashes: number[]) => did.push(`dash ${dashes}`),
    stroke: () => did.push(`stroke ${context.lineWidth}`),
    fill: () => did.push(`fill ${context.fillStyle}`),
    lineWidth: 0,
    fillStyle: '',
  }
  paint(context as never, scene, camera)
  expect(did).toEqual(['at 0 0', 'clear', 'at 20 40', 'dash 2,1', 'stroke 1.5', 'at -3960 -3940', 'fill #654321'])
  expect(pointsSeen(scene, camera)).toBe(4)
  expect(touches(scene.items[1], far, seen(camera), 2)).toBe(false)
})
