import { Refused, token } from './client'
import type { TraceValues } from './types'

/** What a trace would give. d: SVG path data in mm; all outlines closed. */
export interface TracePreview {
  number: number
  coarse: boolean
  pieces: number
  nodes: number
  line_mm: number
  specks: number
  mean_mm: number
  max_mm: number
  /** Whether some of its outlines are lines that do not close. */
  lines?: boolean
  d: string
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

/** SVG path data of outlines, closed where they come back to where they begin, unless some are lines. points: x, y
 *  pairs; start: the first point of each outline, and of none. */
export function closedData(points: Float32Array, start: Uint32Array, lines = false): string {
  const parts: string[] = []
  for (let k = 0; k + 1 < start.length; k++) {
    for (let i = start[k]; i < start[k + 1]; i++) {
      parts.push(`${i === start[k] ? 'M' : 'L'}${points[2 * i].toFixed(3)} ${points[2 * i + 1].toFixed(3)}`)
    }
    if (!lines) parts.push('Z')
  }
  return parts.join('')
}

/** A preview as it was sent: the length of a head, the head, points, starts. */
export function unpackPreview(buffer: ArrayBuffer): TracePreview {
  const size = new DataView(buffer).getUint32(0, true)
  const head = JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, 4, size)))
  const points = new Float32Array(buffer, 4 + size, 2 * head.points)
  const start = new Uint32Array(buffer, 4 + size + 8 * head.points, head.outlines + 1)
  return { ...head, d: closedData(points, start, head.lines) }
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
