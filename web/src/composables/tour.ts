import { computed, ref } from 'vue'

import { words } from '@/words'

const KEPT = 'hakobu-tour'
/** The number of the stop that is shown; -1: none. */
const at = ref(-1)
/** Whether the bench is there, which the tour is about. */
const there = ref(false)

/** A short tour of the bench: what is where, a sentence each. It comes by itself once, and again when asked for. */
export function useTour() {
  const stops = words.tour.stops
  const stop = computed(() => (there.value ? (stops[at.value] ?? null) : null))
  const last = computed(() => at.value === stops.length - 1)
  function begin() {
    at.value = 0
  }
  function next() {
    if (last.value) end()
    else at.value++
  }
  function end() {
    at.value = -1
    globalThis.localStorage?.setItem(KEPT, 'seen')
  }
  /** The bench has opened, or closed; who was never here is shown round. */
  function arrive(here: boolean) {
    there.value = here
    if (here && globalThis.localStorage?.getItem(KEPT) !== 'seen' && at.value < 0) begin()
  }
  return { stop, at, last, count: stops.length, possible: there, begin, next, end, arrive }
}
