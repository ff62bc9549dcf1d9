import { computed, reactive, ref } from 'vue'

import { lineLength, LOCALE, mm, MM_PER_INCH, number } from './lengths'

type Unit = 'mm' | 'in'
const KEPT = 'hakobu-unit'
const stored = (): Unit => (globalThis.localStorage?.getItem(KEPT) === 'in' ? 'in' : 'mm')
const unit = ref<Unit>(stored())

const INCH_DIGITS = 3

/** Lengths and areas in the unit that somebody chose, written as their language writes numbers. */
export function useUnits() {
  const text = (value: number) => (unit.value === 'in' ? `${number(value / MM_PER_INCH, INCH_DIGITS)} in` : `${mm(value)} mm`)
  /** A length of line: metres from one metre on. */
  const line = (value: number) => (unit.value === 'in' ? text(value) : lineLength(value))
  const area = (mm2: number) => {
    if (unit.value === 'in') return `${number(mm2 / MM_PER_INCH ** 2, 3)} in²`
    return mm2 >= 10_000 ? `${number(mm2 / 100, 1)} cm²` : `${number(mm2, 1)} mm²`
  }
  const size = (width: number, height: number) => `${text(width).split(' ')[0]} × ${text(height)}`
  function toggle() {
    unit.value = unit.value === 'mm' ? 'in' : 'mm'
    globalThis.localStorage?.setItem(KEPT, unit.value)
  }
  return reactive({ unit: computed(() => unit.value), text, size, line, area, toggle, locale: LOCALE })
}
