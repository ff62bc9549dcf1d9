import type { Shape } from '@/api/unpack'

/** Points nearer to each other than this, in pixels, are not told apart. */
const ONE_PX = 0.35
/** So many levels of one shape are kept: the one that is looked at, and those beside it. */
const LEVELS_KEPT = 3
const FULL = 1000

const known = new WeakMap<Shape, Map<number, Path2D>>()

/** The path of a shape as fine as a scale, in pixels per mm, can show it; kept for the next time. */
export function pathOf(shape: Shape, scale: number): Path2D {
  const level = levelFor(shape, scale)
  let levels = known.get(shape)
  if (!levels) known.set(shape, (levels = new Map()))
  let path = levels.get(level)
  if (path) return path
  path = level === FULL ? traced(shape) : thinned(shape, ONE_PX / 2 ** level)
  if (levels.size >= LEVELS_KEPT) levels.delete(levels.keys().next().value!)
  levels.set(level, path)
  return path
}

/** How many points are painted at a scale, about. */
export function pointsAt(shape: Shape, scale: number): number {
  const count = shape.points.length / 2
  const [left, top, right, bottom] = shape.box
  return Math.min(count, (4 * (right - left + bottom - top) * scale) / ONE_PX + 8 * shape.closed.length)
}

function levelFor(shape: Shape, scale: number): number {
  const level = Math.ceil(Math.log2(scale))
  // What has few points for its size is never thinned.
  return pointsAt(shape, 2 ** level) < shape.points.length / 2 ? level : FULL
}

/** A lone node is drawn as a stroke that is too short to be seen but has round caps. */
const DOT_MM = 1e-3

function traced({ points, start, closed }: Shape): Path2D {
  const path = new Path2D()
  for (let k = 0; k < closed.length; k++) {
    const last = closed[k] ? start[k + 1] - 1 : start[k + 1]
    path.moveTo(points[2 * start[k]], points[2 * start[k] + 1])
    for (let i = start[k] + 1; i < last; i++) path.lineTo(points[2 * i], points[2 * i + 1])
    if (closed[k]) path.closePath()
    else if (isDot(points, start[k], last)) path.lineTo(points[2 * start[k]] + DOT_MM, points[2 * start[k] + 1])
  }
  return path
}

function isDot(points: Float32Array, first: number, end: number): boolean {
  for (let i = first + 1; i < end; i++) {
    if (points[2 * i] !== points[2 * first] || points[2 * i + 1] !== points[2 * first + 1]) return false
  }
  return true
}

/** Without points that lie within so many mm of the last one kept: no line is farther off than that. */
function thinned({ points, start, closed }: Shape, within: number): Path2D {
  const path = new Path2D()
  const least = within * within
  for (let k = 0; k < closed.length; k++) {
    const end = start[k + 1]
    let x = points[2 * start[k]]
    let y = points[2 * start[k] + 1]
    path.moveTo(x, y)
    let kept = 0
    for (let i = start[k] + 1; i < end; i++) {
      const dx = points[2 * i] - x
      const dy = points[2 * i + 1] - y
      if (dx * dx + dy * dy < least && i < end - 1) continue
      x += dx
      y += dy
      path.lineTo(x, y)
      kept++
    }
    if (kept < 2) path.lineTo(x + DOT_MM, y)
    if (closed[k]) path.closePath()
  }
  return path
}
