import type { FaceShown, Finding } from '@/api/types'

/** What a step of words is given to set a text anew that a file holds as text (core: model/texts.py). */
export interface TextSet {
  text: string
  size_by: string
  size_mm: number
  at: [number, number]
  anchor: string
  turn: number
  weld: string
  instead: string
  was_mm?: number
}

/** The values for the text that a finding is about; null where it is about none. */
export function textOf(finding: Pick<Finding, 'id' | 'key' | 'measure'>): TextSet | null {
  const told = finding.measure as Record<string, string | number>
  if (finding.id !== 'live-text' || !told.text) return null
  return {
    text: String(told.text),
    size_by: String(told.by),
    size_mm: Number(told.size_mm),
    at: [Number(told.x), Number(told.y)],
    anchor: String(told.anchor),
    turn: Number(told.turn),
    weld: 'touching',
    instead: finding.key,
    ...(Number(told.text_width_mm) > 0 ? { was_mm: Number(told.text_width_mm) } : {}),
  }
}

const plain = (name: string) =>
  name
    .toLowerCase()
    .replace(/\.(ttf|otf|shx)$/, '')
    .replace(/[^a-z0-9]/g, '')

/** The face that goes by a name, as the value of a step; nothing where none does. */
export function faceLike(family: string, faces: Pick<FaceShown, 'id' | 'name'>[]): { face?: string } {
  const wanted = plain(family)
  if (!wanted) return {}
  const found = faces.find((face) => plain(face.name) === wanted) ?? faces.find((face) => plain(face.name).startsWith(wanted))
  return found ? { face: found.id } : {}
}
