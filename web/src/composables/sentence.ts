import type { Operation, Parameter } from '@/api/types'

/** A part of a sentence: words, or a parameter that is set in its place. */
export type Part = { words: string } | { parameter: Parameter }

type Values = Record<string, unknown>

/** A value as it is, or as it would be without one. */
export const valueOf = (parameter: Parameter, values: Values) => values[parameter.name] ?? parameter.default

/** Whether a parameter has a meaning beside the others. */
export const applies = (parameter: Parameter, operation: Operation, values: Values) => holds(parameter.when, operation, values)

/** Whether another parameter has one of the values that are asked for. */
export function holds(when: Parameter['when'], operation: Operation, values: Values): boolean {
  if (!when) return true
  const other = operation.parameters.find((one) => one.name === when.name)
  return !!other && when.values.includes(String(valueOf(other, values)))
}

/** The sentence of an operation; what stands in brackets is said only where its parameters have a meaning. */
export function partsOf(operation: Operation, values: Values): Part[] {
  const named = new Map(operation.parameters.map((one) => [one.name, one]))
  const parts: Part[] = []
  const say = (words: string) => {
    const last = parts.at(-1)
    if (last && 'words' in last) last.words += words
    else if (words) parts.push({ words })
  }
  for (const [clause] of operation.sentence.matchAll(/\[[^\]]*\]|[^[]+/g)) {
    const optional = clause.startsWith('[')
    const text = optional ? clause.slice(1, -1) : clause
    const own = [...text.matchAll(/\{(\w+)\}/g)].map(([, name]) => named.get(name)).filter((one) => one !== undefined)
    if (optional && !own.every((one) => applies(one, operation, values))) continue
    for (const piece of text.split(/(\{\w+\})/)) {
      const parameter = piece.startsWith('{') ? named.get(piece.slice(1, -1)) : undefined
      if (parameter) parts.push({ parameter })
      else say(piece)
    }
  }
  return parts
}

/** What is set on the work, or by an editor of its own, has no field. */
const NO_FIELD = ['places', 'spots', 'data', 'pixels']

/** The parameters that the sentence has no place for: those that are asked for beside it, and those folded away. */
export function restOf(operation: Operation, values: Values, group: 'sentence' | 'more'): Parameter[] {
  const said = new Set([...operation.sentence.matchAll(/\{(\w+)\}/g)].map(([, name]) => name))
  return operation.parameters.filter(
    (one) => one.group === group && !NO_FIELD.includes(one.kind) && !said.has(one.name) && applies(one, operation, values),
  )
}
