import { expect, it } from 'vitest'

import type { Layer, Piece, Proof, Weeded } from '@/api/types'
import type { Shape } from '@/api/unpack'
import { artScene, linesScene, proofScene, weededScene } from '@/canvas/looks'
import type { Drawn } from '@/stores/drawing'

const layer = (id: string, treatment: Layer['treatment'] = 'cut'): Layer => ({ id, name: id, color: '#b4673e', treatment, material: null })
function drawn(id: string, of: Layer, more: Partial<Piece> = {}): Drawn {
  const piece = {
    id,
    name: id,
    path: `path-${id}`,
    layer: of.id,
    fill_rule: 'evenodd',
    fill: '#112233',
    fill_opacity: 0.5,
    stroke: null,
    opacity: 1,
    ...more,
  } as Piece
  return { piece, layer: of, shape: { box: [0, 0, 1, 1] } as Shape }
}
const floats = (values: number[]) => Buffer.from(new Float32Array(values).buffer).toString('base64')
const triangle = { points: floats([0, 0, 9, 0, 0, 9, 0, 0]), start: [0, 4], closed: [true] }
const nothing = { points: '', start: [0], closed: [] }

it('shows art in its own colours, or in those given to its layer', () => {
  const all = [drawn('a', layer('card')), drawn('b', layer('film'))]
  expect(artScene(all).items.map((item) => item.fill)).toEqual(['#112233', '#112233'])
  expect(artScene(all).items[0]).toMatchObject({ rule: 'evenodd', fillAlpha: 0.5, stroke: undefined })
})

it('shows lines thinner than can be seen as lines of the screen', () => {
  const stroke = { color: '#ff0000', width_mm: 0.1, opacity: 1, cap: 'butt', join: 'miter', miter_limit: 4, dashes: [], dash_offset: 0 }
  const [thin, bare] = artScene([drawn('a', layer('card'), { fill: null, stroke }), drawn('b', layer('card'), { fill: null })]).items
  expect([thin.stroke, thin.screen, bare.stroke]).toEqual(['#ff0000', true, '#b4673e'])
})

it('tells treatments by the pattern of their lines, and gives print none', () => {
  const all = (['cut', 'score', 'draw', 'print'] as const).map((treatment) => drawn(treatment, layer(treatment, treatment)))
  const items = linesScene(all).items
  expect(items.map((item) => item.dashes?.length)).toEqual([0, 2, 4, 2])
  expect(items.map((item) => !!item.stroke)).toEqual([true, true, true, false])
})

it('lays marks under what is marked, in both looks', () => {
  const marks = { a: { mark: '#2f5fd0' } }
  for (const scene of [artScene([drawn('a', layer('card'))], marks), linesScene([drawn('a', layer('card'))], marks)]) {
    expect(scene.items.length).toBe(2)
    expect(scene.items[0]).toMatchObject({ stroke: '#2f5fd0', screen: true })
  }
})

it('lifts out what is loose, with a shadow', () => {
  const part = { layer: 'card', color: '#b4673e', pieces: 2, area_mm2: 1, waste: 0, open_lines: 0, staying: triangle, strokes: triangle }
  const found: Weeded = {
    format: 'hpgl',
    layers: [
      { ...part, loose: 1, lifted: triangle },
      { ...part, layer: 'film', loose: 0, lifted: nothing },
    ],
  }
  const scene = weededScene(found, 'w', 100)
  expect(scene.items.map((item) => item.shape)).toEqual([
    'w/card/staying',
    'w/card/strokes',
    'w/card/lifted',
    'w/film/staying',
    'w/film/strokes',
  ])
  expect(scene.items[2]).toMatchObject({ shade: true, fill: '#b4673e' })
  expect(scene.items[2].dx).toBeLessThan(0)
  expect(scene.shapes.get('w/card/lifted')!.box).toEqual([0, 0, 9, 9])
})

it('shows a proof: the design pale beneath, what is wrong in a halo, the file on top', () => {
  const proof = {
    file: { bytes: 9 },
    file_length_mm: 1,
    strokes: triangle,
    missing_lines: triangle,
    extra_lines: nothing,
  } as unknown as Proof
  const widths = proofScene([drawn('a', layer('card')), drawn('b', layer('print', 'print'))], proof).items.map((item) => item.width)
  expect(widths).toEqual([6, 9, 9, 1.4])
})
