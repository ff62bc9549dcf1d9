/** The least distance from one thing on a sheet to the others, while it is moved. Outlines stand as chains of points that
 * leave them by far less than a tenth of a millimetre, which is what is shown. */

/** Outlines about the centre of what they are of, in mm: x, y pairs. */
export type Chains = Float64Array[]
export interface Laid {
  chains: Chains
  x: number
  y: number
  /** In degrees, clockwise. */
  turn: number
}
export interface Nearest {
  mm: number
  from: [number, number]
  to: [number, number]
}
type Box = [number, number, number, number]

/** Between two points of a chain, in mm; a longer outline has points farther apart. */
const STEP_MM = 0.5
const MOST_POINTS = 400

/** Points along outlines as the browser draws them. */
export function chainsOf(paths: string[]): Chains {
  const drawn = document.createElementNS('http://www.w3.org/2000/svg', 'path')
  return paths.flatMap((data) =>
    data
      .split(/(?=M)/)
      .filter((one) => one.trim())
      .map((one) => {
        drawn.setAttribute('d', one)
        const whole = drawn.getTotalLength()
        const many = Math.min(Math.max(Math.ceil(whole / STEP_MM), 1), MOST_POINTS)
        const points = new Float64Array(2 * (many + 1))
        for (let k = 0; k <= many; k++) {
          const { x, y } = drawn.getPointAtLength((whole * k) / many)
          points.set([x, y], 2 * k)
        }
        return points
      }),
  )
}

export function laid({ chains, x, y, turn }: Laid): Chains {
  const [c, s] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)]
  return chains.map((points) => {
    const there = new Float64Array(points.length)
    for (let k = 0; k < points.length; k += 2) {
      there[k] = c * points[k] - s * points[k + 1] + x
      there[k + 1] = s * points[k] + c * points[k + 1] + y
    }
    return there
  })
}

export function boxOfChains(chains: Chains): Box {
  const box: Box = [Infinity, Infinity, -Infinity, -Infinity]
  for (const points of chains)
    for (let k = 0; k < points.length; k += 2) {
      box[0] = Math.min(box[0], points[k])
      box[1] = Math.min(box[1], points[k + 1])
      box[2] = Math.max(box[2], points[k])
      box[3] = Math.max(box[3], points[k + 1])
    }
  return box
}
const between = (a: Box, b: Box) => Math.hypot(Math.max(a[0] - b[2], b[0] - a[2], 0), Math.max(a[1] - b[3], b[1] - a[3], 0))

/** Whether a point lies inside outlines, even-odd. */
function inside(x: number, y: number, chains: Chains): boolean {
  let is = false
  for (const p of chains)
    for (let k = 0, last = p.length - 2; k < p.length; last = k, k += 2)
      if (p[k + 1] > y !== p[last + 1] > y && x < ((p[last] - p[k]) * (y - p[k + 1])) / (p[last + 1] - p[k + 1]) + p[k]) is = !is
  return is
}

/** The first point of some chains that lies inside others, or outside. */
function first(points: Chains, chains: Chains, within = true): [number, number] | null {
  for (const p of points) for (let k = 0; k < p.length; k += 2) if (inside(p[k], p[k + 1], chains) === within) return [p[k], p[k + 1]]
  return null
}

/** The nearest to one thing of those that lie on the sheet with it; 0 apart where they overlap. Those whose boxes are
 * farther than what is found are not looked at. */
export function nearestOf(moved: Chains, others: { chains: Chains; box: Box; hollow?: boolean }[]): Nearest | null {
  const own = boxOfChains(moved)
  const rows = others.map((other) => ({ ...other, apart: other.hollow ? 0 : between(own, other.box) })).sort((a, b) => a.apart - b.apart)
  let best: Nearest | null = null
  for (const row of rows) {
    if (best && row.apart >= best.mm) break
    // The rim of the sheet is hollow: to lie in it is right.
    const overlap = row.hollow ? first(moved, row.chains, false) : row.apart ? null : (first(moved, row.chains) ?? first(row.chains, moved))
    if (overlap) return { mm: 0, from: overlap, to: overlap }
    const found = apart(moved, row.chains, best?.mm ?? Infinity)
    if (found) best = found
  }
  return best
}

function apart(one: Chains, other: Chains, under: number): Nearest | null {
  let best: Nearest | null = null
  for (const [points, lines, back] of [
    [one, other, false],
    [other, one, true],
  ] as const) {
    for (const p of points)
      for (let k = 0; k < p.length; k += 2) {
        const found = toLines(p[k], p[k + 1], lines, best?.mm ?? under)
        if (found) best = back ? { mm: found.mm, from: found.to, to: found.from } : found
      }
  }
  return best
}
/** The nearest place on chains to a point, where it is nearer than a distance. */
function toLines(x: number, y: number, lines: Chains, under: number): Nearest | null {
  let least = under * under
  let to: [number, number] | null = null
  for (const p of lines)
    for (let k = 0; k + 3 < p.length; k += 2) {
      const [dx, dy] = [p[k + 2] - p[k], p[k + 3] - p[k + 1]]
      const size = dx * dx + dy * dy
      const t = size ? Math.min(Math.max(((x - p[k]) * dx + (y - p[k + 1]) * dy) / size, 0), 1) : 0
      const [u, v] = [p[k] + t * dx, p[k + 1] + t * dy]
      const far = (x - u) * (x - u) + (y - v) * (y - v)
      if (far < least) {
        least = far
        to = [u, v]
      }
    }
  return to && { mm: Math.sqrt(least), from: [x, y], to }
}
