import type { words } from '@/words'

/** What Build offers: an operation with values, for at least so many picked pieces. drawn: whether it is made of what is
 * picked, so that a small picture of that tells what it is. */
export interface Offer {
  id: keyof typeof words.build.rows
  operation: string
  values: Record<string, unknown>
  least: number
  drawn: boolean
  /** What is set up after it, when it is kept. */
  then?: { operation: string; values: Record<string, unknown> }
}

const of = (id: Offer['id'], operation: string, values: Offer['values'] = {}, least = 1): Offer => ({
  id,
  operation,
  values,
  least,
  drawn: true,
})
/** Done by hand on the work: there is nothing to see beforehand. */
const by = (id: Offer['id'], operation: string, values: Offer['values'] = {}): Offer => ({ id, operation, values, least: 1, drawn: false })
const figure = (id: Offer['id'], kind: string = id): Offer => ({ id, operation: 'shape', values: { kind }, least: 0, drawn: false })

const lettering = (id: Offer['id'], values: Offer['values'] = {}, least = 0): Offer => ({
  id,
  operation: 'words',
  values,
  least,
  drawn: false,
})

/** In the order that most will want them. */
export const OFFERS: Offer[] = [
  of('weld', 'combine', { mode: 'weld' }, 2),
  of('backing', 'backing'),
  of('rim', 'rim'),
  of('open', 'open-along'),
  of('interlock', 'interlock', {}, 2),
  of('let-in', 'let-in'),
  of('symmetric', 'symmetry'),
  of('turned', 'symmetry', { kind: 'turned' }),
  of('fill', 'pattern', { kind: 'over', use: 'stays', rim_mm: 4 }),
  of('hexagons', 'pattern', { kind: 'hexagons' }),
  of('hatch', 'pattern', { kind: 'lines', use: 'lines', spacing_mm: 3 }),
  of('join', 'join'),
  of('bridge', 'bridge'),
  of('hang', 'stand', { side: 'up' }, 2),
  of('stand', 'stand', { side: 'down' }, 2),
  of('layers', 'caption'),
  of('cut-away', 'combine', { mode: 'cut-away' }, 2),
  of('overlap', 'combine', { mode: 'overlap' }, 2),
  of('divide', 'combine', { mode: 'divide' }, 2),
  of('through', 'combine', { mode: 'through' }),
  of('holes', 'holes'),
  of('parts', 'tiles'),
  of('move', 'place', { move: [10, 0], copy: false }),
  of('turn', 'place', { turn: 90 }),
  of('mirror', 'place', { mirror: 'x' }),
  of('copies', 'copies', { columns: 3 }),
  of('around', 'copies', { how: 'around' }),
  of('line-up', 'align', { x: 'centre' }, 2),
  of('spread', 'align', { x: 'spread' }, 3),
  by('nodes', 'nodes'),
  by('cut-line', 'cut-along'),
  by('loop', 'cut-along', { way: 'inside' }),
  of('thin', 'thicken', { where: 'thin' }),
  of('gaps', 'thicken', { where: 'gaps' }),
  of('thicker', 'thicken', { where: 'all' }),
  of('round', 'corners'),
  of('cut-corners', 'corners', { way: 'cut' }),
  of('smooth', 'smooth'),
  of('perforate', 'dash'),
  of('score', 'dash', { way: 'score' }),
  of('fold', 'fold'),
  of('width', 'edges'),
  of('edges', 'edges', { way: 'lines' }),
  of('take-apart', 'take-apart'),
  of('simplify', 'simplify'),
  of('put-together', 'put-together', {}, 2),
  lettering('words'),
  { ...lettering('on-backing'), then: { operation: 'backing', values: {} } },
  lettering('gap', { size_by: 'gap' }, 2),
  lettering('name', { weld: 'closed' }),
  lettering('initials', { face: 'libre-baskerville', weld: 'apart', size_mm: 80, apart_mm: -16 }),
  lettering('caption', { on: 'above' }),
  lettering('outlines', { copies: 2 }),
  lettering('along', { on: 'outline' }, 1),
  lettering('list', { each: true }),
  figure('rectangle'),
  figure('circle'),
  figure('ring'),
  figure('frame'),
  figure('star'),
]
