import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'

import { client, Refused, want } from '@/api/client'
import type { Between } from '@/api/types'
import { lineLength } from '@/composables/lengths'

import { useDrawing } from './drawing'

/** An end of the ruler. onLine: whether it snapped to a node or a line. */
export interface End {
  at: [number, number]
  onLine: boolean
}

/** The ruler between two places: ends snap to nodes and lines, the figure is the core's. */
export const useRuler = defineStore('ruler', () => {
  const drawing = useDrawing()
  const from = shallowRef<End | null>(null)
  const to = shallowRef<End | null>(null)
  const fixed = ref(false)
  const measured = shallowRef<Between | null>(null)
  const text = ref('')
  const problem = ref('')

  /** A click: the first end, the other one, and from the beginning again. */
  function put(end: End) {
    if (!from.value || fixed.value) {
      clear()
      from.value = end
    } else {
      to.value = end
      fixed.value = true
      void measure()
    }
  }

  function move(end: End) {
    if (!from.value || fixed.value) return
    to.value = end
    const [a, b] = [from.value.at, end.at]
    text.value = lineLength(Math.hypot(b[0] - a[0], b[1] - a[1]))
  }

  async function measure() {
    const ends = [from.value!, to.value!]
    const [first, last] = ends.map(({ at: [x, y], onLine }) => ({ x, y, on_line: onLine }))
    problem.value = ''
    try {
      const found = await want(
        client.POST('/api/jobs/{job}/documents/{document}/between', { params: { path: drawing.at(drawing.shown) }, body: { first, last } }),
      )
      if (from.value !== ends[0] || to.value !== ends[1]) return
      measured.value = found
      text.value = lineLength(found.distance_mm)
    } catch (error) {
      problem.value = error instanceof Refused ? error.sentence : String(error)
    }
  }

  function clear() {
    from.value = to.value = measured.value = null
    fixed.value = false
    text.value = problem.value = ''
  }
  return { from, to, fixed, measured, text, problem, put, move, clear }
})
