import { computed } from 'vue'

import { usePicks } from '@/stores/picks'
import { words } from '@/words'

import { useUnits } from './units'

/** What is picked in a few words and in figures, as they are shown and copied. */
export function usePickedFigures() {
  const picks = usePicks()
  const units = useUnits()
  const w = words.picked

  const first = computed(() => picks.byId.get(picks.pieces[0]))
  const what = computed(() => {
    if (picks.picks.length !== 1) return w.several(picks.picks.length, picks.pieces.length)
    const [{ node }] = picks.picks
    return node !== undefined ? w.node(node + 1) : first.value?.piece.name || w.unnamed
  })
  const round = (radius: number) => w.round(units.text(2 * radius))
  const size = (box: number[]) => units.size(box[2] - box[0], box[3] - box[1])

  const figures = computed(() => {
    const now = picks.reading
    if (!now) return []
    const found: [string, string][] = now.radius_mm ? [[w.circle, round(now.radius_mm)]] : [[w.size, size(now.box)]]
    found.push([w.line, units.line(now.length_mm)])
    if (now.area_mm2 !== null) found.push([w.area, units.area(now.area_mm2)])
    found.push([w.nodes, now.nodes.toLocaleString(units.locale)])
    if (now.thin_mm !== null) found.push([w.thin, units.text(now.thin_mm)])
    return found
  })
  /** The outline that was touched says what it is by itself, where it is not all there is. */
  const touched = computed<[string, string] | null>(() => {
    const own = picks.touchedReading
    if (!own || !picks.reading || String(own.box) === String(picks.reading.box)) return null
    return own.radius_mm ? [w.touchedHole, round(own.radius_mm)] : [w.touched, size(own.box)]
  })
  /** Where a node is. */
  const place = computed(() => {
    const [pick] = picks.picks
    const shape = first.value?.shape
    if (picks.picks.length !== 1 || pick.node === undefined || !shape) return ''
    return w.at(units.text(shape.nodes[2 * pick.node]), units.text(shape.nodes[2 * pick.node + 1]))
  })
  const copied = computed(() => {
    const lines = [...figures.value, ...(touched.value ? [touched.value] : [])]
    return [what.value, ...lines.map(([name, value]) => `${name}: ${value}`)].join('\n')
  })
  return { what, figures, touched, place, copied }
}
