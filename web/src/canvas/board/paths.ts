import type { Shape } from '@/api/unpack'

/** How far, in pixels, a line may be from where it should be: less than anybody sees between pixels. */
const OFF_PX = 0.12
/** Curves so fine take about one point for so many pixels. */
const POINT_PX = 1.6
/** So many levels of one shape are kept: those that were looked at last. */
const LEVELS_KEPT = 6
const FULL = 1000
/** So many numbers are too few to be thinned. */
const FEW = 32
/** How near to the curves the points that were sent are, in mm, at least. */
const SENT_MM = 0.002

const known = new WeakMap<Shape, Map<number, Path2D>>()

/** The path of a shape as fine as a scale, in pixels per mm, can show it; kept for the next time. */
export function pathOf(shape: Shape, scale: number): Path2D {
  const level = levelFor(shape, scale)
  let levels = known.get(shape)
  if (!levels) known.set(shape, (levels = new Map()))
  let path = levels.get(level)
  if (path) return path
  path = level === FULL ? traced(shape) : thinned(shape, OFF_PX / 2 ** level)
  if (levels.size >= LEVELS_KEPT) levels.delete(levels.keys().next().value!)
  levels.set(level, path)
  return path
}

/** How many points are painted at a scale, about. */
export function pointsAt(shape: Shape, scale: number): number {
  const count = shape.points.length / 2
  const [left, top, right, bottom] = shape.box
  return Math.min(count, (2 * (right - left + bottom - top) * scale) / POINT_PX + 8 * shape.closed.length)
}

function levelFor(shape: Shape, scale: number): number {
  const level = Math.ceil(Math.log2(scale))
  // Small things, and what is looked at more finely than it was sent, have nothing to leave out.
  return shape.points.length > FEW && OFF_PX / 2 ** level > SENT_MM ? level : FULL
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

/** Fewer points, all those left out within so many mm of the lines between those kept. From each point that is kept, the
 * directions that pass all after it so near make a cone; the last point before one that lies outside of it is kept next
 * (Williams, "An efficient algorithm for the piecewise linear approximation of planar curves", 1978). */
function thinned({ points, start, closed }: Shape, within: number): Path2D {
  const path = new Path2D()
  const near = within * within
  for (let k = 0; k < closed.length; k++) {
    const end = start[k + 1]
    let x = points[2 * start[k]]
    let y = points[2 * start[k] + 1]
    path.moveTo(x, y)
    let kept = 0
    let open = false
    // The directions that bound the cone, to its left and right, and the square of how far it has come.
    let [lx, ly, rx, ry, far] = [0, 0, 0, 0, 0]
    for (let i = start[k] + 1; i < end; i++) {
      let dx = points[2 * i] - x
      let dy = points[2 * i + 1] - y
      let square = dx * dx + dy * dy
      if (!open && square <= near) continue
      if (open && (lx * dy - ly * dx > 0 || rx * dy - ry * dx < 0 || square < far)) {
        x = points[2 * i - 2]
        y = points[2 * i - 1]
        path.lineTo(x, y)
        kept++
        open = false
        dx = points[2 * i] - x
        dy = points[2 * i + 1] - y
        square = dx * dx + dy * dy
        if (square <= near) continue
      }
      // The tangents to the circle about this point: its direction turned by the angle whose sine is within / distance.
      const sine = square > near ? within / Math.sqrt(square) : 1
      const cosine = Math.sqrt(1 - sine * sine)
      const [ax, ay] = [dx * cosine - dy * sine, dx * sine + dy * cosine]
      const [bx, by] = [dx * cosine + dy * sine, dy * cosine - dx * sine]
      if (!open || lx * ay - ly * ax < 0) [lx, ly] = [ax, ay]
      if (!open || rx * by - ry * bx > 0) [rx, ry] = [bx, by]
      far = square
      open = true
    }
    path.lineTo(points[2 * end - 2], points[2 * end - 1])
    if (kept < 1) path.lineTo(x + DOT_MM, y)
    if (closed[k]) path.closePath()
  }
  return path
}
