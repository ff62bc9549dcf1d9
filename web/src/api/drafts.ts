import { Refused, token } from './client'
import type { Dimension, Layer, Piece, Selection, SheetShown, Under } from './types'
import { unpackPaths, type Shape } from './unpack'

/** Of a kind of finding, how many there would be more, or fewer. */
export interface Kind {
  rule: string
  title: string
  count: number
}

interface Figures {
  pieces: number
  outlines: number
  nodes: number
  line_mm: number
  width_mm: number
  height_mm: number
}

/** A place on the work where a hand takes hold of a part of the step (operations/operation.py, Spot). */
export interface Spot {
  id: string
  at: [number, number]
  /** In degrees, clockwise. */
  turn: number
  size: [number, number]
}

/** What a step would do (server/previews/steps.py): what is new or changed, with its shapes, and what is gone. */
export interface Draft {
  number: number
  title: string
  note: string
  /** Later steps that would stop, and why. */
  stopped: string[]
  before: Figures
  after: Figures
  /** How large it would be, in words that can be checked. */
  in_words: string
  /** What the step tells of itself in figures. */
  statistics: Record<string, number | string>
  spots: Spot[]
  /** What the step measured, and what else is measured, as they are drawn then. */
  marks: Dimension[]
  dimensions: Dimension[]
  target?: Under | null
  /** What a step of the station Sheet would lay where. */
  sheets?: SheetShown[]
  page: [number, number] | null
  layers: Layer[]
  pieces: Piece[]
  gone: string[]
  order: string[]
  /** Where all that the step does is to move the whole design by a matrix, a to f as in SVG: pieces are not sent then. */
  moved?: [number, number, number, number, number, number] | null
  findings?: { made: Kind[]; removed: Kind[] } | null
  verdict?: { sentence: string; holds: boolean | null } | null
  report?: { narrowest_mm: number | null; smallest_gap_mm: number | null; area_mm2: number | null }
  shapes: Map<string, Shape>
}

export interface DraftAsked {
  based_on: number
  step: { key?: string; operation: string; parameters: Record<string, unknown>; selection: Selection; kept?: string[] }
  checked: boolean
  tab: string
  number: number
}

export function unpackDraft(buffer: ArrayBuffer): Draft {
  const size = new DataView(buffer).getUint32(0, true)
  const head = JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, 4, size)))
  return { ...head, shapes: unpackPaths(buffer.slice(4 + size)) }
}

/** What a step would do; null where a newer question has overtaken this one. */
export async function fetchDraft(job: string, asked: DraftAsked): Promise<Draft | null> {
  const response = await fetch(`/api/jobs/${job}/steps/preview`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json', 'X-CSRFToken': token() },
    body: JSON.stringify(asked),
  })
  if (response.status === 204) return null
  if (response.ok) return unpackDraft(await response.arrayBuffer())
  const said = await response.json().catch(() => ({}))
  throw new Refused(response.status, said.code ?? 'failed', said.sentence ?? 'The preview did not come.')
}
