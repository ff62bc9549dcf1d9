import { expect, it } from 'vitest'

import type { SheetShown } from '@/api/types'
import { asPacked } from '@/stores/sheets'

const shape = [{ path: 'M0 0H1V1Z', color: '#000000', rule: 'nonzero', name: '', as: 'fill' }]
const sheet = (own: string, items: SheetShown['items'], names: string[]) =>
  ({
    id: `draft:${own}`,
    own,
    layers: ['card'],
    items,
    numbers: 'M0 0H1',
    shapes: Object.fromEntries(names.map((name) => [name, shape])),
    report: { problems: [{ kind: 'number', sentence: 'No room.', place: null }] },
  }) as unknown as SheetShown

it('shows what a packing has found so far, by whatever key its step will have', () => {
  const all = [sheet('card', [{ key: 'a*1', item: 'a', x: 5, y: 5, turn: 0 }], ['a']), sheet('card:2', [], ['b'])]
  const so_far = { 'k7:card': { 'a*1': [9, 8, 90], 'b*2': [30, 8, 0] }, 'k7:card:2': {} } as Parameters<typeof asPacked>[2]
  const [first, second] = all.map((one) => asPacked(one, all, so_far))
  expect(first.items.map(({ key, item, x, turn }) => [key, item, x, turn])).toEqual([
    ['a*1', 'a', 9, 90],
    ['b*2', 'b', 30, 0],
  ])
  // What came from another sheet has its shapes.
  expect(first.shapes.b).toBe(shape)
  expect([first.numbers, first.report.problems, second.items]).toEqual(['', [], []])
})

it('leaves a sheet of another material as it is', () => {
  const one = sheet('felt', [], ['a'])
  expect(asPacked(one, [one], { 'k7:card': {} })).toBe(one)
})
