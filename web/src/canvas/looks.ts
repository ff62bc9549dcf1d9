import type { Draft } from '@/api/drafts'
import type { Picture, Proof, Weeded } from '@/api/types'
import { shapeOfLines, type Shape } from '@/api/unpack'
import type { Drawn } from '@/stores/drawing'

import type { Item, Scene } from './board/scene'
import { PATTERN } from './patterns'

/** Ink and attention on paper: the sheet is the same in both themes. */
export const INK = '#1b2a4e'
export const PICK = '#2f5fd0'
export const FLAG = '#c2361f'
/** Lines as thin as machine files and drawings have them are seen from afar, too. */
const THIN_MM = 0.25
/** How far loose pieces are lifted out, as a share of the whole. */
const LIFTED = 0.012
const MARK_PX = 7

type Marks = Record<string, { mark?: string | null }>

/** A soft band under a piece in the colour that somebody marked it with. */
function marked({ piece }: Drawn, marks: Marks): Item[] {
  const stroke = marks[piece.id]?.mark
  return stroke ? [{ shape: piece.path, stroke, strokeAlpha: 0.45, width: MARK_PX, screen: true }] : []
}

/** The work as it will look: fills and strokes in paint order. */
export function artScene(drawn: Drawn[], marks: Marks = {}): Scene {
  const items = drawn.flatMap((one): Item[] => [...marked(one, marks), asArt(one)])
  return { items, shapes: shapesOf(drawn) }
}

export function asArt({ piece, layer }: Drawn): Item {
  const stroke = piece.stroke
  const thin = !piece.fill && (stroke?.width_mm ?? 0) <= THIN_MM
  return {
    shape: piece.path,
    fill: piece.fill ?? undefined,
    fillAlpha: piece.fill_opacity,
    rule: piece.fill_rule,
    alpha: piece.opacity,
    stroke: stroke?.color ?? (piece.fill ? undefined : layer.color),
    strokeAlpha: stroke?.opacity ?? 1,
    width: thin ? 1.3 : stroke?.width_mm,
    screen: thin,
    cap: (stroke?.cap as CanvasLineCap) ?? 'butt',
    join: (stroke?.join as CanvasLineJoin) ?? 'miter',
    miter: stroke?.miter_limit,
    dashes: stroke?.dashes,
  }
}

/** Exactly what the tool follows: one ink line for every outline, its pattern telling the treatment. */
export function linesScene(drawn: Drawn[], marks: Marks = {}): Scene {
  const items = drawn.flatMap((one): Item[] => {
    const { piece, layer } = one
    const followed = layer.treatment !== 'print'
    const line: Item = {
      shape: piece.path,
      fill: piece.fill ? INK : undefined,
      fillAlpha: 0.07,
      rule: piece.fill_rule,
      stroke: followed ? INK : undefined,
      width: 1.5,
      screen: true,
      dashes: PATTERN[layer.treatment],
    }
    return [...marked(one, marks), line]
  })
  return { items, shapes: shapesOf(drawn) }
}

/** What remains after cutting and weeding, from the machine's own files: pieces in their material, loose ones lifted out,
 * and the lines of the file, faint, where the rest has gone. */
export function weededScene(weeded: Weeded, name: string, size: number): Scene {
  const items: Item[] = []
  const shapes = new Map<string, Shape>()
  const lift = -size * LIFTED
  for (const layer of weeded.layers) {
    const add = (part: string, lines: Parameters<typeof shapeOfLines>[0], item: Partial<Item>) => {
      const shape = `${name}/${layer.layer}/${part}`
      shapes.set(shape, shapeOfLines(lines))
      items.push({ shape, screen: true, rule: 'nonzero', ...item })
    }
    add('staying', layer.staying, { fill: layer.color })
    add('strokes', layer.strokes, { stroke: INK, strokeAlpha: 0.28, width: 1 })
    if (!layer.loose) continue
    add('lifted', layer.lifted, { fill: layer.color, shade: true, dx: lift, dy: lift })
  }
  return { items, shapes }
}

/** A machine file, read back from its own bytes, over the design it came from: ink over a broad pale band. */
export function proofScene(drawn: Drawn[], proof: Proof): Scene {
  const shapes = shapesOf(drawn)
  const items: Item[] = drawn
    .filter(({ layer }) => layer.treatment !== 'print')
    .map(({ piece }) => ({ shape: piece.path, stroke: PICK, strokeAlpha: 0.22, width: 6, screen: true }))
  const add = (part: string, lines: Proof['strokes'], item: Partial<Item>) => {
    // The same file may be proven again with other bytes.
    const shape = `proof/${part}/${proof.file.bytes}/${proof.file_length_mm}/${lines.points.length}`
    shapes.set(shape, shapeOfLines(lines))
    items.push({ shape, screen: true, ...item })
  }
  const halo = { stroke: FLAG, strokeAlpha: 0.3, width: 9 }
  add('missing', proof.missing_lines, halo)
  add('extra', proof.extra_lines, halo)
  add('strokes', proof.strokes, { stroke: INK, width: 1.4 })
  return { items, shapes }
}

export function shapesOf(drawn: Drawn[]): Map<string, Shape> {
  return new Map(drawn.map(({ piece, shape }) => [piece.path, shape]))
}

export const NOTHING: Scene = { items: [], shapes: new Map() }

/** One of the views that lie side by side on the bench. */
export interface Side {
  name: string
  scene: Scene
  pictures: Picture[]
  pale: string[]
  /** Whether nodes, starts and directions are shown when near enough. */
  lines: boolean
  /** Where what is drawn lies apart from where it is: names above each layer, in mm. */
  labels: { text: string; x: number; y: number }[]
}

/** What is new or changed by a step that is set up, over the work: ink with a wash of blue. */
export function draftScene(draft: Draft, shapes: ReadonlyMap<string, Shape>): Scene {
  const items = draft.pieces.map((piece): Item => ({
    shape: piece.path,
    fill: piece.fill ? PICK : undefined,
    fillAlpha: 0.16,
    rule: piece.fill_rule,
    stroke: INK,
    width: 1.8,
    screen: true,
  }))
  return { items, shapes: new Map([...shapes, ...draft.shapes]) }
}

/** The work under a step that is set up: what goes is pale and dashed. */
export function underDraft(scene: Scene, drawn: Drawn[], draft: Draft): Scene {
  const going = new Set([...draft.gone, ...draft.pieces.map((piece) => piece.id)])
  const paths = new Set(drawn.filter(({ piece }) => going.has(piece.id)).map(({ piece }) => piece.path))
  if (!paths.size) return scene
  const items = scene.items.map((item) =>
    paths.has(item.shape) ? { ...item, fillAlpha: 0.04, stroke: INK, strokeAlpha: 0.45, width: 1, screen: true, dashes: [4, 4] } : item,
  )
  return { ...scene, items }
}

/** Some pieces as they would be after a step, in their own looks; with what they become. */
export function offerScene(drawn: Drawn[], draft: Draft, own: Set<string>): Scene {
  const gone = new Set([...draft.gone, ...draft.pieces.map((piece) => piece.id)])
  const layers = new Map(draft.layers.map((layer) => [layer.id, layer]))
  const shapes = new Map([...shapesOf(drawn), ...draft.shapes])
  const kept = drawn.filter(({ piece }) => own.has(piece.id) && !gone.has(piece.id))
  const made = draft.pieces.flatMap((piece) => {
    const [layer, shape] = [layers.get(piece.layer), shapes.get(piece.path)]
    return layer && shape ? [{ piece, layer, shape }] : []
  })
  const rank = new Map(draft.order.map((id, k) => [id, k]))
  const all = [...kept, ...made].sort((a, b) => (rank.get(a.piece.id) ?? 0) - (rank.get(b.piece.id) ?? 0))
  const items = all.map((one): Item => {
    // What lies over each other is told apart at this size by its lines.
    const art = { ...asArt(one), width: 1, screen: true, dashes: [] }
    return one.piece.fill ? { ...art, fillAlpha: 0.3, stroke: INK, strokeAlpha: 0.9 } : art
  })
  return { items, shapes }
}
