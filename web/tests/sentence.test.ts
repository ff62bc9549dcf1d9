import { expect, it } from 'vitest'

import type { Operation, Parameter } from '@/api/types'
import { applies, partsOf, restOf } from '@/composables/sentence'

function parameter(name: string, more: Partial<Parameter> = {}): Parameter {
  const plain = {
    kind: 'length',
    label: name,
    help: name,
    unit: 'mm',
    default: 1,
    required: false,
    optional: false,
    low: 0,
    high: 9,
    step: 1,
  }
  return { ...plain, name, choices: [], most: 9, group: 'sentence', when: null, handle: '', instead_of: [], ...more } as Parameter
}
const KIND = parameter('kind', {
  kind: 'choice',
  default: 'ring',
  choices: [
    { value: 'ring', words: 'a ring' },
    { value: 'line', words: 'a line' },
  ],
})
const RIM = parameter('rim', { when: { name: 'kind', values: ['ring'] } })
const OPERATION = {
  id: 'shape',
  station: 'build',
  title: 'Draw',
  sentence: 'Draw {kind} {width} wide[, a rim of {rim}], at {nothing}',
  roles: [],
  parameters: [KIND, parameter('width'), RIM, parameter('turn', { group: 'more' }), parameter('key', { group: '' }), parameter('beside')],
} as unknown as Operation

const said = (values: Record<string, unknown>) =>
  partsOf(OPERATION, values)
    .map((part) => ('words' in part ? part.words : `<${part.parameter.name}>`))
    .join('')

it('says what stands in brackets only where its parameter has a meaning', () => {
  expect(said({})).toBe('Draw <kind> <width> wide, a rim of <rim>, at {nothing}')
  expect(said({ kind: 'line' })).toBe('Draw <kind> <width> wide, at {nothing}')
  expect(applies(RIM, OPERATION, { kind: 'line' })).toBe(false)
})

it('asks beside the sentence, or folded, for what the sentence has no place for', () => {
  expect(restOf(OPERATION, {}, 'sentence').map((one) => one.name)).toEqual(['beside'])
  expect(restOf(OPERATION, {}, 'more').map((one) => one.name)).toEqual(['turn'])
})
