import { computed, reactive, ref } from 'vue'

import { lineLength, LOCALE, mm, MM_PER_INCH, number } from './lengths'

export const UNITS = ['mm', 'in', 'both'] as const
type Unit = (typeof UNITS)[number]
const KEPT = 'hakobu-unit'
const stored = (): Unit => UNITS.find((one) => one === globalThis.localStorage?.getItem(KEPT)) ?? 'mm'
const unit = ref<Unit>(stored())

const INCH_DIGITS = 3

/** Lengths and areas in the unit that somebody chose, written as their language writes numbers. */
export function useUnits() {
  const inch = (value: number) => `${number(value / MM_PER_INCH, INCH_DIGITS)} in`
  /** In the unit that is typed in, where both are shown. */
  const one = (value: number) => (unit.value === 'in' ? inch(value) : `${mm(value)} mm`)
  const text = (value: number) => (unit.value === 'both' ? `${mm(value)} mm (${inch(value)})` : one(value))
  /** A length of line: metres from one metre on. */
  const line = (value: number) => (unit.value === 'in' ? text(value) : lineLength(value))
  const area = (mm2: number) => {
    if (unit.value === 'in') return `${number(mm2 / MM_PER_INCH ** 2, 3)} in²`
    return mm2 >= 10_000 ? `${number(mm2 / 100, 1)} cm²` : `${number(mm2, 1)} mm²`
  }
  function size(width: number, height: number) {
    const inMm = `${mm(width)} × ${mm(height)} mm`
    const inInches = `${inch(width).split(' ')[0]} × ${inch(height)}`
    return { mm: inMm, in: inInches, both: `${inMm} (${inInches})` }[unit.value]
  }
  function choose(next: Unit) {
    unit.value = next
    globalThis.localStorage?.setItem(KEPT, next)
  }
  const toggle = () => choose(UNITS[(UNITS.indexOf(unit.value) + 1) % UNITS.length])
  return reactive({ unit: computed(() => unit.value), text, one, size, choose, line, area, toggle, locale: LOCALE })
}
