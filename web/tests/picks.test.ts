import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'

import type { Drawing, Layer, Piece } from '@/api/types'
import { boxOf, type Shape } from '@/api/unpack'
import type { Hit, Target } from '@/canvas/picker'
import { useDrawing, type Drawn } from '@/stores/drawing'
import { usePicks } from '@/stores/picks'

const LAYERS: Layer[] = ['card', 'film'].map((id) => ({ id, name: id, color: '#111111', treatment: 'cut', material: null }))

function square(id: string, layer: number, fill: string, x: number, y: number, side: number, path = id): Drawn {
  const points = Float32Array.from([x, y, x + side, y, x + side, y + side, x, y + side, x, y])
  const shape: Shape = {
    points,
    start: Uint32Array.from([0, 5]),
    closed: Uint8Array.from([1]),
    nodes: points.slice(0, 8),
    corners: new Uint8Array(4),
    box: boxOf(points),
  }
  const piece = {
    id,
    name: id,
    path,
    layer: LAYERS[layer].id,
    fill_rule: 'nonzero',
    fill,
    fill_opacity: 1,
    stroke: null,
    opacity: 1,
  } as Piece
  return { piece, layer: LAYERS[layer], shape }
}
const DRAWN = [
  square('a', 0, '#cc0000', 0, 0, 10),
  square('b', 0, '#cc0000', 20, 0, 10),
  square('c', 0, '#00cc00', 2, 2, 3),
  square('d', 1, '#00cc00', 40, 0, 30),
]
function show(document: string, drawn: Drawn[]) {
  const drawing = useDrawing()
  drawing.plans.set(document, { document, drawing: { layers: LAYERS } as Drawing, drawn })
  drawing.shown = document
}
const hit = (drawn: Drawn, outline = 0, distance = 0.1): Hit => ({ target: { drawn } as Target, outline, distance, inside: true })
const picked = () => usePicks().pieces

beforeEach(() => {
  setActivePinia(createPinia())
  vi.stubGlobal('fetch', () => new Promise(() => {}))
  show('one', DRAWN)
})

it('picks, adds and takes away', () => {
  const picks = usePicks()
  picks.click([hit(DRAWN[0])], null, [0, 0], 'only')
  picks.click([hit(DRAWN[1])], null, [50, 0], 'add')
  expect(picked()).toEqual(['a', 'b'])
  picks.click([hit(DRAWN[1])], null, [50, 0], 'add')
  expect(picked()).toEqual(['a'])
  picks.band([{ drawn: DRAWN[0] } as Target, { drawn: DRAWN[3] } as Target], 'add')
  expect(picked()).toEqual(['a', 'd'])
  picks.band([{ drawn: DRAWN[0] } as Target], 'away')
  expect(picked()).toEqual(['d'])
  picks.click([], null, [90, 90], 'only')
  expect(picked()).toEqual([])
})

it('reaches what lies under by clicking on in one place', () => {
  const picks = usePicks()
  const both = [hit(DRAWN[2]), hit(DRAWN[0])]
  const seen = [0, 1, 2].map(() => {
    picks.click(both, null, [30, 30], 'only')
    return picked()[0]
  })
  expect(seen).toEqual(['c', 'a', 'c'])
  picks.click(both, null, [60, 30], 'only')
  expect(picked()).toEqual(['c'])
})

it.each([
  ['colour', ['a', 'b']],
  ['layer', ['a', 'b', 'c']],
  ['size', ['a', 'b']],
  ['kind', ['a', 'b', 'c', 'd']],
  ['inside', ['c']],
  ['others', ['b', 'c', 'd']],
] as const)('picks all alike: %s', (how, expected) => {
  const picks = usePicks()
  picks.take([{ piece: 'a' }], 'only')
  picks.pickAlike(how)
  expect(picked()).toEqual(expected)
})

it('keeps what is there after a step, outlines only of lines that are the same', async () => {
  const picks = usePicks()
  picks.take([{ piece: 'a' }, { piece: 'b', outline: 0 }, { piece: 'c', outline: 0 }, { piece: 'd' }], 'only')
  show('two', [square('a', 0, '#cc0000', 1, 1, 9, 'other'), DRAWN[1], square('c', 0, '#00cc00', 2, 2, 4, 'changed')])
  await nextTick()
  expect(picks.picks).toEqual([{ piece: 'a' }, { piece: 'b', outline: 0 }])
})

it('goes from piece to piece', () => {
  const picks = usePicks()
  for (const [by, expected] of [
    [1, 'a'],
    [1, 'b'],
    [-1, 'a'],
    [-1, 'd'],
  ] as const) {
    picks.step(by)
    expect(picked()).toEqual([expected])
  }
})
