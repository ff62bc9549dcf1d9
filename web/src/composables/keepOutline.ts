import { boxOf, type Shape } from '@/api/unpack'
import { useJob } from '@/stores/job'
import { useLists, type Entry, type Kind } from '@/stores/lists'
import { usePicks } from '@/stores/picks'
import { words } from '@/words'

/** What stays free along the rim of an offcut that is new, in mm. */
const OFFCUT_MARGIN_MM = 3

/** Puts the outline of a piece on the list of targets, and chooses it; or on the list of stock, as an offcut. */
export function useKeepOutline() {
  const jobs = useJob()
  const lists = useLists()
  const picks = usePicks()

  async function keep(kind: Kind, id: string, named: (name: string) => string, values: Partial<Entry>, said: (name: string) => string) {
    const drawn = picks.byId.get(id)
    if (!drawn) return null
    const name = lists.freeName(kind, named(drawn.piece.name || words.picked.unnamed.toLowerCase()))
    const made = await lists.addNew(kind, { ...values, ...outlineOf(drawn.shape), name }, said(name))
    if (!made && lists.problem) jobs.problem = lists.problem
    return made
  }

  async function asTarget(id: string) {
    const w = words.size
    const made = await keep('targets', id, w.named, { shape: 'outline', corner_mm: 0 }, w.madeTarget)
    if (made) await jobs.set(w.choosing, () => ({ target: made, target_off: null }))
  }
  async function asOffcut(id: string) {
    const w = words.sheets
    const layer = picks.byId.get(id)?.layer
    await keep('stock', id, w.offcutNamed, { material: layer?.material ?? '', margin_mm: OFFCUT_MARGIN_MM }, w.offcutKept)
  }
  return { asTarget, asOffcut }
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
