import type { LinesSent } from './types'

/** A path ready to be drawn and picked: polylines in mm. points: x, y pairs; start: the first point of each outline, and
 * of none; closed outlines end where they begin. nodes: x, y pairs; corners: 1 for each corner among them. box: left,
 * top, right, bottom. */
export interface Shape {
  points: Float32Array
  start: Uint32Array
  closed: Uint8Array
  nodes: Float32Array
  corners: Uint8Array
  box: [number, number, number, number]
}

function bytesOf(text: string): ArrayBuffer {
  const binary = atob(text)
  const bytes = new Uint8Array(binary.length)
  for (let i = 0; i < binary.length; i++) bytes[i] = binary.charCodeAt(i)
  return bytes.buffer
}

export function floats(text: string): Float32Array {
  return new Float32Array(bytesOf(text))
}

const short = (value: number) => Math.round(value * 1000) / 1000

/** SVG path data of polylines. A lone node becomes a stroke of no length, which round caps show as a dot. */
export function dataOf(lines: LinesSent): string {
  const points = floats(lines.points)
  const parts: string[] = []
  for (let k = 0; k < lines.closed.length; k++) {
    const first = lines.start[k]
    const end = lines.start[k + 1]
    parts.push(`M${short(points[2 * first])} ${short(points[2 * first + 1])}`)
    const last = lines.closed[k] ? end - 1 : end
    for (let i = first + 1; i < last; i++) parts.push(`L${short(points[2 * i])} ${short(points[2 * i + 1])}`)
    if (lines.closed[k]) parts.push('Z')
  }
  return parts.join('')
}

export function boxOf(points: Float32Array): Shape['box'] {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity]
  for (let i = 0; i < points.length; i += 2) {
    const x = points[i]
    const y = points[i + 1]
    if (x < left) left = x
    if (x > right) right = x
    if (y < top) top = y
    if (y > bottom) bottom = y
  }
  return [left, top, right, bottom]
}

/** Polylines without nodes as a shape. */
export function shapeOfLines(lines: LinesSent): Shape {
  const points = floats(lines.points)
  return {
    points,
    start: Uint32Array.from(lines.start),
    closed: Uint8Array.from(lines.closed, Number),
    nodes: new Float32Array(),
    corners: new Uint8Array(),
    box: boxOf(points),
  }
}

/** Paths as the server packs them (server/api/drawing.py): each by its hash. */
export function unpackPaths(buffer: ArrayBuffer): Map<string, Shape> {
  const size = new DataView(buffer).getUint32(0, true)
  const table: [string, number, number, number][] = JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, 4, size)))
  const sum = (column: 1 | 2 | 3) => table.reduce((total, row) => total + row[column], 0)
  const [points, outlines, nodes] = [sum(1), sum(2), sum(3)]
  let at = 4 + size
  const part = <T>(made: T, bytes: number): T => {
    at += bytes
    return made
  }
  const allPoints = part(new Float32Array(buffer, at, 2 * points), 8 * points)
  const counts = part(new Uint32Array(buffer, at, outlines), 4 * outlines)
  const allNodes = part(new Float32Array(buffer, at, 2 * nodes), 8 * nodes)
  const closed = part(new Uint8Array(buffer, at, outlines), outlines)
  const corners = new Uint8Array(buffer, at, nodes)
  const shapes = new Map<string, Shape>()
  let [p, k, n] = [0, 0, 0]
  for (const [hash, ownPoints, ownOutlines, ownNodes] of table) {
    const start = new Uint32Array(ownOutlines + 1)
    for (let i = 0; i < ownOutlines; i++) start[i + 1] = start[i] + counts[k + i]
    const own = allPoints.subarray(2 * p, 2 * (p + ownPoints))
    shapes.set(hash, {
      points: own,
      start,
      closed: closed.subarray(k, k + ownOutlines),
      nodes: allNodes.subarray(2 * n, 2 * (n + ownNodes)),
      corners: corners.subarray(n, n + ownNodes),
      box: boxOf(own),
    })
    p += ownPoints
    k += ownOutlines
    n += ownNodes
  }
  return shapes
}
