import { Refused, token } from './client'
import type { TraceValues } from './types'

/** A layer that a trace would make. base: the colour it was found in, by which it is named. */
export interface FoundLayer {
  name: string
  color: string
  base: string
  lines: boolean
}

/** What a trace would give. d: SVG path data in mm of all outlines; fills: of each layer, lowest first. */
export interface TracePreview {
  number: number
  coarse: boolean
  title: string
  notes: string[]
  /** What the picture gave where nothing was typed. */
  chosen: Record<string, number>
  /** What the picture proposes, whatever was typed; nothing in a coarse preview. */
  proposed: Record<string, number>
  layers: FoundLayer[]
  /** Each piece's key, the number of its layer, how many outlines it has; none in a coarse preview. */
  parts: [string, number, number][]
  /** The layer of each outline. */
  layer_of: number[]
  /** From the pixels by which places are named to mm, a to f as in SVG. */
  matrix: number[] | null
  /** From the pixels of the picture as it lies there to mm, row by row, where it was put right from a slant. */
  plane: number[] | null
  pieces: number
  nodes: number
  line_mm: number
  specks: number
  mean_mm: number
  max_mm: number
  points: Float32Array
  start: Uint32Array
  d: string
  fills: string[]
}

export interface Asked extends TraceValues {
  mode: string
  options: Record<string, unknown>
  document: string
  picture: string
  coarse: boolean
  tab: string
  number: number
}

/** SVG path data of some outlines. points: x, y pairs; start: the first point of each outline, and of none; lines:
 *  whether an outline is a line, which closes only where it comes back to where it begins. */
export function pathData(points: Float32Array, start: Uint32Array, lines: (k: number) => boolean, which: Iterable<number>): string {
  const parts: string[] = []
  for (const k of which) {
    for (let i = start[k]; i < start[k + 1]; i++) {
      parts.push(`${i === start[k] ? 'M' : 'L'}${points[2 * i].toFixed(3)} ${points[2 * i + 1].toFixed(3)}`)
    }
    if (!lines(k)) parts.push('Z')
  }
  return parts.join('')
}

/** A preview as it was sent: the length of a head, the head, points, starts. */
export function unpackPreview(buffer: ArrayBuffer): TracePreview {
  const size = new DataView(buffer).getUint32(0, true)
  const head = JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, 4, size)))
  const points = new Float32Array(buffer, 4 + size, 2 * head.points)
  const start = new Uint32Array(buffer, 4 + size + 8 * head.points, head.outlines + 1)
  const layers = head.layers as FoundLayer[]
  const lines = (k: number) => layers[head.layer_of[k]]?.lines ?? false
  const own: number[][] = layers.map(() => [])
  for (let k = 0; k < head.outlines; k++) own[head.layer_of[k]].push(k)
  const d = pathData(points, start, lines, Array(head.outlines).keys())
  const fills = layers.length > 1 ? own.map((which) => pathData(points, start, lines, which)) : [d]
  return { ...head, points, start, d, fills }
}

/** A preview; null where a newer question has overtaken this one. */
export async function fetchPreview(job: string, asked: Asked): Promise<TracePreview | null> {
  const response = await fetch(`/api/jobs/${job}/trace/preview`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json', 'X-CSRFToken': token() },
    body: JSON.stringify(asked),
  })
  if (response.status === 204) return null
  if (response.ok) return unpackPreview(await response.arrayBuffer())
  const said = await response.json().catch(() => ({}))
  throw new Refused(response.status, said.code ?? 'failed', said.sentence ?? 'The preview did not come.')
}
