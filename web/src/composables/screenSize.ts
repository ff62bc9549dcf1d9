import { computed, ref } from 'vue'

/** Pixels of a millimetre where nothing was measured: the CSS definition of 96 px an inch. */
export const PX_PER_MM = 96 / 25.4
const KEPT = 'hakobu-screen-px-per-mm'
/** What a screen can be: from a wall to a telephone, in CSS pixels to the millimetre. */
const [LEAST, MOST] = [0.4, 40]
const stored = () => {
  const value = Number(globalThis.localStorage?.getItem(KEPT))
  return value >= LEAST && value <= MOST ? value : null
}
const measured = ref<number | null>(stored())

/** How many CSS pixels of this screen are a millimetre: as somebody has measured it, else as CSS has it. */
export function useScreenSize() {
  const pxPerMm = computed(() => measured.value ?? PX_PER_MM)
  function set(value: number | null) {
    measured.value = value === null ? null : Math.min(Math.max(value, LEAST), MOST)
    if (measured.value === null) globalThis.localStorage?.removeItem(KEPT)
    else globalThis.localStorage?.setItem(KEPT, String(measured.value))
  }
  return { pxPerMm, isMeasured: computed(() => measured.value !== null), set }
}
