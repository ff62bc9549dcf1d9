import type { LinesSent, PathSent } from './types'

/** A path ready to be drawn. d: SVG path data in mm. nodes: x, y pairs. corners: 1 for each corner among them. */
export interface Shape {
  d: string
  nodes: Float32Array
  corners: Uint8Array
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

export function shapeOf(path: PathSent): Shape {
  return { d: dataOf(path), nodes: floats(path.nodes), corners: new Uint8Array(bytesOf(path.corners)) }
}
