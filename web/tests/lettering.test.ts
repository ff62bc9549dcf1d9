import { expect, it } from 'vitest'

import { faceLike, textOf } from '@/bench/lettering/found'
import { lettersOf, rowsOf, withMoved } from '@/bench/lettering/letters'

it('names letters by what they are and the how-manieth of their kind', () => {
  expect(lettersOf('Kettle e').map((one) => one.key)).toEqual(['K 1', 'e 1', 't 1', 't 2', 'l 1', 'e 2', 'e 3'])
  expect(lettersOf('e\u0301a').map((one) => one.said)).toEqual(['é', 'a'])
  expect(lettersOf(' \n')).toEqual([])
})

it('keeps only what was moved', () => {
  const one = withMoved({}, 'K 1', 'turn', 12)
  expect(one).toEqual({ 'K 1': { turn: 12 } })
  expect(withMoved(one!, 'e 2', 'wide', 1.5)).toEqual({ 'K 1': { turn: 12 }, 'e 2': { wide: 1.5 } })
  expect(withMoved(one!, 'K 1', 'turn', 0)).toBeUndefined()
  expect(withMoved({ 'K 1': { wide: 2 } }, 'K 1', 'wide', 1)).toBeUndefined()
})

it.each([
  ['Ada\nBo\n', [['Ada'], ['Bo']]],
  [
    '\uFEFFseat,name\r\n1,"Ada, the elder"\r\n',
    [
      ['seat', 'name'],
      ['1', 'Ada, the elder'],
    ],
  ],
  [
    'name;seat\n"Ada ""A"" Bo";2',
    [
      ['name', 'seat'],
      ['Ada "A" Bo', '2'],
    ],
  ],
  [
    'a\tb\n\n1\t"two\nlines"',
    [
      ['a', 'b'],
      ['1', 'two\nlines'],
    ],
  ],
])('reads the rows of %j', (text, rows) => {
  expect(rowsOf(text as string)).toEqual(rows)
})

it('takes a text of a file as it stood there', () => {
  const measure = {
    text: 'HERON',
    by: 'capitals',
    size_mm: 8,
    x: 20,
    y: 40,
    anchor: 'centre',
    turn: -30,
    family: 'Anton',
    text_width_mm: 50,
  }
  expect(textOf({ id: 'live-text', key: 'k', measure })).toEqual({
    text: 'HERON',
    size_by: 'capitals',
    size_mm: 8,
    at: [20, 40],
    anchor: 'centre',
    turn: -30,
    weld: 'touching',
    instead: 'k',
    was_mm: 50,
  })
  expect(textOf({ id: 'live-text', key: 'k', measure: { ...measure, text_width_mm: 0 } })).not.toHaveProperty('was_mm')
  expect(textOf({ id: 'live-text', key: 'k', measure: { count: 1 } })).toBeNull()
  expect(textOf({ id: 'thin-strip', key: 'k', measure })).toBeNull()
})

it('finds a face by the name that a file calls it', () => {
  const faces = [
    { id: 'dancing-script', name: 'Dancing Script Bold' },
    { id: 'anton', name: 'Anton' },
  ]
  expect(faceLike('Anton', faces)).toEqual({ face: 'anton' })
  expect(faceLike('dancing-script.ttf', faces)).toEqual({ face: 'dancing-script' })
  expect(faceLike('Comic', faces)).toEqual({})
  expect(faceLike('', faces)).toEqual({})
})
