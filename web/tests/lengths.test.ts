import { expect, it } from 'vitest'

import { count, lineLength, mm, parseLength } from '@/composables/lengths'

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
