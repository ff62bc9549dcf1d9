import { describe, expect, it } from 'vitest'

import { dark, light, type Tokens } from '@/theme/tokens'

/** Source: WCAG 2.2, definitions of relative luminance and contrast ratio; success criteria 1.4.3 and 1.4.11. */
function luminance(color: string): number {
  const [r, g, b] = [1, 3, 5].map((i) => {
    const v = parseInt(color.slice(i, i + 2), 16) / 255
    return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4
  })
  return 0.2126 * r + 0.7152 * g + 0.0722 * b
}

function contrast(a: string, b: string): number {
  const [high, low] = [luminance(a), luminance(b)].sort((x, y) => y - x)
  return (high + 0.05) / (low + 0.05)
}

const TEXT: [keyof Tokens, keyof Tokens][] = [
  ['ink', 'ground'],
  ['ink', 'panel'],
  ['ink', 'raised'],
  ['ink2', 'ground'],
  ['ink2', 'panel'],
  ['ink2', 'raised'],
  ['ink3', 'panel'],
  ['ink3', 'raised'],
  ['onInk', 'ink'],
  ['flag', 'panel'],
  ['flag', 'raised'],
  ['flag', 'flagGround'],
  ['ink', 'flagGround'],
  ['onFlag', 'flag'],
  ['good', 'panel'],
  ['good', 'goodGround'],
  ['ink', 'goodGround'],
  ['ink2', 'goodGround'],
  ['print', 'paper'],
]
const MARKS: [keyof Tokens, keyof Tokens][] = [
  ['edge', 'panel'],
  ['edge', 'raised'],
  ['pick', 'panel'],
  ['pick', 'raised'],
  ['pick', 'ground'],
]

describe.each([
  ['light', light],
  ['dark', dark],
])('%s', (_, tokens) => {
  it.each(TEXT)('%s is read on %s', (text, ground) => {
    expect(contrast(tokens[text], tokens[ground])).toBeGreaterThanOrEqual(4.5)
  })
  it.each(MARKS)('%s is seen on %s', (mark, ground) => {
    expect(contrast(tokens[mark], tokens[ground])).toBeGreaterThanOrEqual(3)
  })
})

it('marks on the sheet, which are the same in light and dark, stand out', () => {
  for (const tokens of [light, dark]) {
    for (const mark of ['#c2361f', '#2f5fd0', '#8a8471']) {
      expect(contrast(mark, tokens.paper)).toBeGreaterThanOrEqual(3)
    }
  }
})

it('knows black from white', () => {
  expect(contrast('#000000', '#ffffff')).toBeCloseTo(21, 5)
})
