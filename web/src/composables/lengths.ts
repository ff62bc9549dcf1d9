/** Lengths as people type and read them. The grammar is the core's (model/units.py); tests hold both to one table. */
export const MM_PER_INCH = 25.4
const MM: Record<string, number> = { mm: 1, cm: 10, m: 1000, in: 25.4, ft: 304.8, pt: 25.4 / 72, pc: 25.4 / 6, px: 25.4 / 96, q: 0.25 }
const NAMES: Record<string, string> = {
  '"': 'in',
  '\u2033': 'in',
  inch: 'in',
  inches: 'in',
  "'": 'ft',
  '\u2032': 'ft',
  foot: 'ft',
  feet: 'ft',
  millimetre: 'mm',
  millimetres: 'mm',
}
/** A fraction, with whole ones before it, or a number; and its unit. Or a sign. */
const WORD =
  /\s*(?:(?:(?:(\d+)[\s-]+)?(\d+)\s*\/\s*(\d+)(?![\d.])|((?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?))\s*([a-z"\u2033'\u2032]*)|([-+*/()\u00d7]))/iy
const MOST_LETTERS = 200
const MOST_DEEP = 20

/** A figure: in mm where a unit stands at it, else plain. */
interface Value {
  figure: number
  plain: boolean
}
type Word = Value | string

function wordsOf(text: string): Word[] | null {
  const words: Word[] = []
  const typed = text.replace(/,/g, '.').trimEnd()
  if (typed.length > MOST_LETTERS) return null
  WORD.lastIndex = 0
  while (WORD.lastIndex < typed.length) {
    const match = WORD.exec(typed)
    if (!match) return null
    const [, whole, top, below, number, name, sign] = match
    if (sign) {
      words.push(sign)
      continue
    }
    const size = name ? MM[NAMES[name.toLowerCase()] ?? name.toLowerCase()] : 1
    if (size === undefined || (below !== undefined && Number(below) === 0)) return null
    const value = number !== undefined ? Number(number) : Number(whole ?? 0) + Number(top) / Number(below)
    words.push({ figure: value * size, plain: !name })
  }
  return words
}

/** Millimetres of a length, of sums and of shares of lengths; or null where the text is none. A plain figure is in mm. */
export function parseLength(text: string): number | null {
  const words = wordsOf(text)
  let at = 0
  let deep = 0
  const nextIs = (...signs: string[]) => {
    const word = words![at]
    if (typeof word !== 'string' || !signs.includes(word)) return ''
    at++
    return word
  }
  function sum(): Value | null {
    let made = product()
    for (let sign = made && nextIs('+', '-'); made && sign; sign = nextIs('+', '-')) {
      const other = product()
      made = other && { figure: made.figure + (sign === '-' ? -other.figure : other.figure), plain: made.plain && other.plain }
    }
    return made
  }
  function product(): Value | null {
    let made = one()
    while (made) {
      const sign = nextIs('*', '/', '\u00d7')
      if (!sign) {
        // Feet and inches stand beside each other.
        if (made.plain || typeof words![at] !== 'object') return made
        const other = one()
        made = other && { figure: made.figure + other.figure, plain: false }
        continue
      }
      const other = one()
      if (!other) return null
      if (sign === '/') {
        if ((!other.plain && made.plain) || other.figure === 0) return null
        made = { figure: made.figure / other.figure, plain: made.plain || !other.plain }
      } else {
        if (!made.plain && !other.plain) return null
        made = { figure: made.figure * other.figure, plain: made.plain && other.plain }
      }
    }
    return made
  }
  function one(): Value | null {
    if (++deep > MOST_DEEP || at >= words!.length) return null
    const found = inner()
    deep--
    return found
  }
  function inner(): Value | null {
    const sign = nextIs('-', '+')
    if (sign) {
      const value = one()
      return value && { ...value, figure: sign === '-' ? -value.figure : value.figure }
    }
    if (nextIs('(')) {
      const value = sum()
      return nextIs(')') ? value : null
    }
    const word = words![at]
    if (typeof word !== 'object') return null
    at++
    return word
  }
  if (!words) return null
  const value = sum()
  return value && at === words.length ? value.figure : null
}

/** How numbers are written: as the person's own language has them. */
export const LOCALE = typeof navigator === 'undefined' ? 'en' : navigator.language || 'en'
export const number = (value: number, digits = 0) => value.toLocaleString(LOCALE, { maximumFractionDigits: digits })

/** A length in mm with as many decimals as its size asks for. */
export const mm = (value: number) =>
  value.toLocaleString(LOCALE, { maximumFractionDigits: Math.abs(value) < 100 ? 2 : 1, useGrouping: false })

/** A length of line: metres from one metre on. */
export function lineLength(value: number): string {
  return value >= 1000 ? `${number(value / 1000, 2)} m` : `${mm(value)} mm`
}

export function count(amount: number, one: string, many = `${one}s`): string {
  return `${number(amount)} ${amount === 1 ? one : many}`
}
