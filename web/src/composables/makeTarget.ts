import { boxOf, type Shape } from '@/api/unpack'
import { useJob } from '@/stores/job'
import { useLists } from '@/stores/lists'
import { usePicks } from '@/stores/picks'
import { words } from '@/words'

/** Puts the outline of a piece on the list of targets, and chooses it. */
export function useMakeTarget() {
  const jobs = useJob()
  const lists = useLists()
  const picks = usePicks()
  const w = words.size

  return async function make(id: string) {
    const drawn = picks.byId.get(id)
    if (!drawn) return
    const name = freeName(w.named(drawn.piece.name || words.picked.unnamed.toLowerCase()))
    const made = await lists.addNew('targets', { name, shape: 'outline', corner_mm: 0, ...outlineOf(drawn.shape) }, w.madeTarget(name))
    if (made) await jobs.set(w.choosing, () => ({ target: made, target_off: null }))
    else if (lists.problem) jobs.problem = lists.problem
  }
  function freeName(wanted: string): string {
    const taken = new Set(lists.rows('targets').map((row) => row.name.toLowerCase()))
    let number = 1
    const of = () => (number > 1 ? `${wanted} ${number}` : wanted)
    while (taken.has(of().toLowerCase())) number++
    return of()
  }
}

/** The closed outline of a shape with the largest box, as path data, and its size. */
export function outlineOf({ points, start, closed }: Shape) {
  const rows = [...closed].flatMap((is, k) => (is ? [points.subarray(2 * start[k], 2 * start[k + 1])] : []))
  const boxes = rows.map(boxOf)
  const areas = boxes.map(([left, top, right, bottom]) => (right - left) * (bottom - top))
  const largest = areas.indexOf(Math.max(...areas))
  const [left, top, right, bottom] = boxes[largest] ?? [0, 0, 0, 0]
  const row = rows[largest] ?? []
  const fine = (value: number) => Math.round(value * 1000) / 1000
  const places = Array.from({ length: row.length / 2 }, (_, i) => `${fine(row[2 * i])} ${fine(row[2 * i + 1])}`)
  return { width_mm: right - left, height_mm: bottom - top, outline: `M${places.join('L')}Z` }
}
