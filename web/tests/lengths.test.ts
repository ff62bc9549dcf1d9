import { expect, it } from 'vitest'

import { count, lineLength, mm, parseLength } from '@/composables/lengths'
import { useUnits } from '@/composables/units'

import table from '../../core/tests/lengths.json'

it.each(table.right as [string, number][])('%s is %d mm', (text, value) => {
  expect(parseLength(text)).toBeCloseTo(value, 9)
})

it.each(table.wrong)('"%s" is no length', (text) => {
  expect(parseLength(text)).toBeNull()
})

it('says lengths as short as they can be read', () => {
  expect([0, 0.084, 12.5, 128.04, 100].map(mm)).toEqual(['0', '0.08', '12.5', '128', '100'])
  expect([999.4, 4316.6].map(lineLength)).toEqual(['999.4 mm', '4.32 m'])
  expect([count(1, 'piece'), count(12345, 'piece')]).toEqual(['1 piece', '12,345 pieces'])
})

it('writes lengths and areas in the unit that was chosen', () => {
  const units = useUnits()
  expect([units.unit, units.text(12.345), units.size(10, 2.5), units.area(12), units.area(25_000)]).toEqual([
    'mm',
    '12.35 mm',
    '10 × 2.5 mm',
    '12 mm²',
    '250 cm²',
  ])
  units.toggle()
  expect([units.unit, units.text(25.4), units.area(645.16)]).toEqual(['in', '1 in', '1 in²'])
  units.toggle()
})
