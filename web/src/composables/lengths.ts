/** Lengths as people type and read them. The grammar is the core's (model/units.py); tests hold both to one table. */
export const MM_PER_INCH = 25.4
const MM: Record<string, number> = { mm: 1, cm: 10, m: 1000, in: 25.4, pt: 25.4 / 72, pc: 25.4 / 6, px: 25.4 / 96, q: 0.25 }
const NAMES: Record<string, string> = { '"': 'in', '\u2033': 'in', inch: 'in', inches: 'in' }
const TYPED = /^\s*(?:(\d+)[\s-]+)?(?:(\d+)\s*\/\s*(\d+)|(\d+\.?\d*|\.\d+))\s*([a-z"\u2033]*)\s*$/i

/** Millimetres, or null where the text is no length. */
export function parseLength(text: string): number | null {
  const match = TYPED.exec(text.replace(',', '.'))
  if (!match || (match[1] && match[4])) return null
  const [, whole, top, below, number, name] = match
  const unit = (name || 'mm').toLowerCase()
  const size = MM[NAMES[unit] ?? unit]
  if (size === undefined || (below !== undefined && Number(below) === 0)) return null
  const value = number !== undefined ? Number(number) : Number(whole ?? 0) + Number(top) / Number(below)
  return value * size
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
