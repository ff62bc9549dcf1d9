import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'

import { client, want } from '@/api/client'
import { words } from '@/words'

import { useJob } from './job'
import { nearestOn, placeAlong } from './played'
import { useWorking } from './working'

/** Pieces to their outlines, each with shares of its length. */
type Places = Record<string, Record<string, number | number[]>>
/** What is set on lines, and the step that keeps it. */
export type Kind = 'start' | 'tabs'
const STEPS = { start: 'start-points', tabs: 'tab-places' }
/** A tab within so many mm of a click is the one that is meant. */
const SAME_MM = 2

/** Places on closed lines that a person sets: where they begin, and where tabs hold them. */
export const useOwnPlaces = defineStore('own-places', () => {
  const job = useJob()
  const working = useWorking()
  const kind = ref<Kind>('start')
  /** The piece on whose lines they are set, by its id and its number in the program, -1 without; and on which line. */
  const id = ref('')
  const piece = computed(() => (id.value ? (working.shown?.program.pieces.indexOf(id.value) ?? -1) : -1))
  const nth = ref(0)
  /** A place that is pointed at, in mm. */
  const place = ref<[number, number] | null>(null)

  /** The runs of each closed outline of the piece: several where tabs part it. */
  const lines = computed(() => {
    const of = working.shown?.program.runs
    const found = new Map<number, number[]>()
    of?.piece.forEach((one, k) => {
      if (one !== piece.value || !of.closed[k] || of.nth_pass[k] > 1) return
      found.set(of.outline[k], [...(found.get(of.outline[k]) ?? []), k])
    })
    return [...found.values()]
  })
  const runs = computed(() => lines.value[Math.min(nth.value, lines.value.length - 1)] ?? [])
  /** Where tabs hold the piece: in the middle between the parts of a line. */
  const held = computed(() => {
    const at = working.shown
    if (!at || kind.value !== 'tabs' || !job.head) return []
    const end = (k: number, last: boolean) => {
      const i = last ? at.start[k + 1] - 1 : at.start[k]
      return [at.points[2 * i], at.points[2 * i + 1]]
    }
    return lines.value.flatMap((line) => {
      const [first] = line
      const [a, b] = [end(first, false), end(first, true)]
      if (line.length < 2 && Math.hypot(a[0] - b[0], a[1] - b[1]) < 1e-3) return []
      return line.map((k, n) => {
        const [from, to] = [end(k, true), end(line[(n + 1) % line.length], false)]
        return [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2]
      })
    })
  })
  const stepOf = (of: Kind) => job.head?.steps.findLast((one) => one.operation === STEPS[of] && one.enabled)
  const starts = computed(() => stepOf('start'))
  const tabs = computed(() => stepOf('tabs'))

  function begin(of: string, what: Kind = 'start') {
    kind.value = what
    id.value = of
    nth.value = 0
    place.value = null
  }
  const leave = () => begin('')
  watch(() => job.job?.id, leave)

  /** Points at the nearest place on a line of the piece, within a distance in mm. */
  function pointAt(x: number, y: number, within: number) {
    const found = working.shown && nearestOn(working.shown, lines.value.flat(), x, y, within)
    place.value = found?.place ?? null
    if (found) nth.value = lines.value.findIndex((line) => line.includes(found.run))
  }
  /** The place so far along the line, in mm from its begin. */
  const along = (far: number) => working.shown && placeAlong(working.shown, runs.value, far)

  function changed(before: Places, found: { piece: string; outline: number; share: number; length_mm: number }): Places {
    const { [found.piece]: own = {}, ...others } = before
    const { [found.outline]: now, ...rest } = own
    if (kind.value === 'start') return { ...before, [found.piece]: { ...own, [found.outline]: found.share } }
    const shares = now === undefined ? [] : [now].flat()
    const apart = (share: number) => {
      const by = Math.abs(share - found.share)
      return Math.min(by, 1 - by) * found.length_mm
    }
    const left = shares.filter((share) => apart(share) > SAME_MM)
    const made = left.length < shares.length ? left : [...shares, found.share]
    const outlines: Places[string] = made.length ? { ...rest, [found.outline]: made } : rest
    return Object.keys(outlines).length ? { ...others, [found.piece]: outlines } : others
  }
  /** The line begins there from now on; or a tab holds it there, or no more. */
  async function set(at: [number, number] | null) {
    const program = working.shown?.program
    if (!at || !program || !runs.value.length || !job.job || !job.head) return
    const outline = program.runs.outline[runs.value[0]]
    const query = { sheet: working.sheet, piece: id.value, outline, x: at[0], y: at[1] }
    try {
      const params = { path: { job: job.job.id, revision: job.head.id }, query }
      const found = await want(client.GET('/api/jobs/{job}/revisions/{revision}/program/place', { params }))
      const kept = stepOf(kind.value)
      const places = changed((kept?.parameters as { places?: Places } | undefined)?.places ?? {}, found)
      if (kept && !Object.keys(places).length) await job.dropStep(kept.key)
      else {
        const key = kept ? { key: kept.key } : {}
        await job.putStep(words.working.setting, { ...key, operation: STEPS[kind.value], parameters: { places }, selection: {} })
      }
      if (kind.value === 'start') leave()
    } catch (error) {
      job.problem = (error as { sentence?: string }).sentence ?? String(error)
    }
  }

  return { kind, piece, nth, lines, held, place, starts, tabs, begin, leave, pointAt, along, set }
})
