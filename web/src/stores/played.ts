import type { Program } from '@/api/types'
import { floats } from '@/api/unpack'

/** A program ready to be drawn and played: the points of all runs, where each run begins among them, when each point is
 * come to; and when the way to each run begins, the run itself, and its end, in seconds. */
export interface Played {
  program: Program
  points: Float32Array
  clock: Float32Array
  start: number[]
  leaves: Float64Array
  begins: Float64Array
  ends: Float64Array
}

export function played(program: Program): Played {
  const count = program.runs.tool.length
  const [leaves, begins, ends] = [new Float64Array(count), new Float64Array(count), new Float64Array(count)]
  let now = 0
  for (let k = 0; k < count; k++) {
    leaves[k] = now
    begins[k] = now + program.runs.travel_s[k]
    ends[k] = begins[k] + program.runs.seconds[k]
    now = ends[k]
  }
  const { points, start } = program.lines
  return { program, points: floats(points), clock: floats(program.clock), start, leaves, begins, ends }
}

/** Where the tool is at a time in a run, in mm. */
export function placeIn(at: Played, k: number, since: number): [number, number] {
  const { points, clock } = at
  let [low, high] = [at.start[k], at.start[k + 1] - 1]
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if (clock[middle] <= since) low = middle
    else high = middle
  }
  const share = Math.min(Math.max((since - clock[low]) / Math.max(clock[high] - clock[low], 1e-9), 0), 1)
  return [
    points[2 * low] + (points[2 * high] - points[2 * low]) * share,
    points[2 * low + 1] + (points[2 * high + 1] - points[2 * low + 1]) * share,
  ]
}

/** Where the way to a run begins, in mm. */
export function before(at: Played, k: number): [number, number] {
  if (!k) return at.program.home as [number, number]
  const i = at.start[k] - 1
  return [at.points[2 * i], at.points[2 * i + 1]]
}

/** Where the tool is at a time, in mm, while a run or the way to it is under way. */
export function toolAt(at: Played, k: number, time: number): [number, number] {
  if (time >= at.begins[k]) return placeIn(at, k, time - at.begins[k])
  const [x, y] = before(at, k)
  const i = at.start[k]
  const share = (time - at.leaves[k]) / Math.max(at.begins[k] - at.leaves[k], 1e-9)
  return [x + (at.points[2 * i] - x) * share, y + (at.points[2 * i + 1] - y) * share]
}

/** Each leg of a run, from x, y to x, y in mm. */
function legsOf(at: Played, k: number): [number, number, number, number][] {
  const legs: [number, number, number, number][] = []
  for (let i = at.start[k] + 1; i < at.start[k + 1]; i++)
    legs.push([at.points[2 * i - 2], at.points[2 * i - 1], at.points[2 * i], at.points[2 * i + 1]])
  return legs
}

/** The run whose line is nearest to a place in mm, of those named, within a distance, and where on it. */
export function nearestOn(at: Played, runs: Iterable<number>, x: number, y: number, within: number) {
  let best = within
  let found: { run: number; place: [number, number] } | null = null
  for (const run of runs) {
    for (const [ax, ay, bx, by] of legsOf(at, run)) {
      const [wx, wy] = [bx - ax, by - ay]
      const share = Math.min(Math.max(((x - ax) * wx + (y - ay) * wy) / Math.max(wx * wx + wy * wy, 1e-12), 0), 1)
      const place: [number, number] = [ax + wx * share, ay + wy * share]
      const apart = Math.hypot(place[0] - x, place[1] - y)
      if (apart < best) [best, found] = [apart, { run, place }]
    }
  }
  return found
}

/** The place so far along runs, one after the other, in mm from their begin; past their end it goes on from the begin. */
export function placeAlong(at: Played, runs: number[], far: number): [number, number] | null {
  const legs = runs.flatMap((run) => legsOf(at, run))
  const long = legs.map(([ax, ay, bx, by]) => Math.hypot(bx - ax, by - ay))
  let left =
    far %
    Math.max(
      long.reduce((sum, one) => sum + one, 0),
      1e-9,
    )
  const nth = long.findIndex((one) => {
    if (left <= one) return true
    left -= one
    return false
  })
  if (nth < 0) return null
  const [ax, ay, bx, by] = legs[nth]
  const share = left / Math.max(long[nth], 1e-12)
  return [ax + (bx - ax) * share, ay + (by - ay) * share]
}
