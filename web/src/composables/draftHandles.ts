import { computed } from 'vue'

import type { Parameter } from '@/api/types'
import { mm, number } from '@/composables/lengths'
import { valueOf } from '@/composables/sentence'
import { useDraft } from '@/stores/draft'
import { useDrawing } from '@/stores/drawing'
import { usePicks } from '@/stores/picks'

type Place = [number, number]

/** A parameter as a handle on the work: where it is, from where it is measured, and the value that a place gives. */
export interface DraftHandle {
  id: string
  parameter: Parameter
  at: Place
  from: Place
  /** What stands beside it. */
  text: string
  /** What an arrow key adds, and along which axes it goes: x, y or both. */
  along: 'x' | 'y' | 'both'
  valueAt: (place: Place) => unknown
}

/** How far the handle that turns stands from the middle, as a share of the picked pieces' height, and at least in mm. */
const TURN_SHARE = 0.6
const ROUND_MM = 0.1
const rounded = (value: number, to = ROUND_MM) => Math.round(value / to) * to
const clean = (value: number) => Math.round(value * 1000) / 1000

/** The handles of the step that is set up. */
export function useDraftHandles() {
  const draft = useDraft()
  const drawing = useDrawing()
  const picks = usePicks()

  /** The box of what the step is for. */
  const box = computed<[number, number, number, number]>(() => {
    const ids = draft.pieces.length ? draft.pieces : drawing.inUse.map(({ piece }) => piece.id)
    const boxes = ids.flatMap((id) => picks.byId.get(id)?.shape.box ?? [])
    const sides = (k: number) => boxes.filter((_, i) => i % 4 === k)
    if (!boxes.length) return [0, 0, ...((drawing.drawing?.frame ?? [0, 0]) as Place)]
    return [Math.min(...sides(0)), Math.min(...sides(1)), Math.max(...sides(2)), Math.max(...sides(3))]
  })
  const middle = computed<Place>(() => [(box.value[0] + box.value[2]) / 2, (box.value[1] + box.value[3]) / 2])
  /** Where what is made lies: at the place that is typed, else in the middle of the page. */
  const place = computed<Place>(() => {
    const typed = draft.fields.find((one) => one.handle === 'place')
    const frame = (drawing.drawing?.page ?? draft.shown?.page ?? drawing.drawing?.frame ?? [0, 0]) as Place
    return ((typed && valueOf(typed, draft.values)) as Place | null) ?? [frame[0] / 2, frame[1] / 2]
  })

  /** The place that a step is about, where it has one: else the middle of what it is for. */
  const centre = computed<Place>(() => {
    const typed = draft.fields.find((one) => one.handle === 'middle')
    return ((typed && valueOf(typed, draft.values)) as Place | null) ?? middle.value
  })
  const degrees = computed(() => {
    const typed = draft.fields.find((one) => one.handle === 'turn')
    return Number((typed && valueOf(typed, draft.values)) ?? 0)
  })
  /** The ends of a line that nobody has drawn yet: across the middle of a fold, down the middle of a mirror. */
  const ends = (parameter: Parameter, value: unknown): [number, number, number, number] => {
    const [left, top, right, bottom] = box.value
    const [x, y] = middle.value
    return (value as [number, number, number, number] | null) ?? (parameter.kind === 'axis' ? [x, top, x, bottom] : [left, y, right, y])
  }

  type Made = Omit<DraftHandle, 'parameter' | 'id'>
  const MAKE: Record<string, (parameter: Parameter, value: unknown) => Made | Made[] | null> = {
    middle: () => ({
      from: centre.value,
      at: centre.value,
      text: `${mm(centre.value[0])}, ${mm(centre.value[1])}`,
      along: 'both',
      valueAt: ([x, y]) => [clean(rounded(x)), clean(rounded(y))],
    }),
    apart: (_, value) => {
      const way = ((degrees.value + 90) * Math.PI) / 180
      const [cos, sin] = [Math.cos(way), Math.sin(way)]
      const [x, y] = centre.value
      const half = Number(value ?? 0) / 2
      return {
        from: [x - half * cos, y - half * sin],
        at: [x + half * cos, y + half * sin],
        text: `${mm(2 * half)} mm`,
        along: 'y',
        valueAt: (to) => clean(rounded(2 * Math.abs((to[0] - x) * cos + (to[1] - y) * sin))),
      }
    },
    ends: (parameter, value) => {
      const now = ends(parameter, value)
      const [start, end]: [Place, Place] = [
        [now[0], now[1]],
        [now[2], now[3]],
      ]
      const moved = (to: Place, k: 0 | 2) => {
        const next = [...now]
        next[k] = clean(rounded(to[0]))
        next[k + 1] = clean(rounded(to[1]))
        return next
      }
      return [
        { from: end, at: start, text: `${mm(start[0])}, ${mm(start[1])}`, along: 'both', valueAt: (to) => moved(to, 0) },
        { from: start, at: end, text: `${mm(end[0])}, ${mm(end[1])}`, along: 'both', valueAt: (to) => moved(to, 2) },
      ]
    },
    out: (_, value) => {
      const from: Place = [box.value[2], middle.value[1]]
      const by = Number(value ?? 0)
      return { from, at: [from[0] + by, from[1]], text: `${mm(by)} mm`, along: 'x', valueAt: ([x]) => clean(rounded(x - from[0])) }
    },
    width: (_, value) => {
      const half = Number(value ?? 0) / 2
      return {
        from: place.value,
        at: [place.value[0] + half, place.value[1]],
        text: `${mm(2 * half)} mm`,
        along: 'x',
        valueAt: ([x]) => clean(rounded(2 * Math.abs(x - place.value[0]))),
      }
    },
    height: (_, value) => {
      const width = draft.fields.find((one) => one.handle === 'width')
      const half = Number(value ?? (width ? valueOf(width, draft.values) : 0)) / 2
      return {
        from: place.value,
        at: [place.value[0], place.value[1] + half],
        text: `${mm(2 * half)} mm`,
        along: 'y',
        valueAt: ([, y]) => clean(rounded(2 * Math.abs(y - place.value[1]))),
      }
    },
    place: () => ({
      from: place.value,
      at: place.value,
      text: `${mm(place.value[0])}, ${mm(place.value[1])}`,
      along: 'both',
      valueAt: ([x, y]) => [clean(rounded(x)), clean(rounded(y))],
    }),
    by: (_, value) => {
      const [dx, dy] = (value as Place | null) ?? [0, 0]
      const from = middle.value
      return {
        from,
        at: [from[0] + dx, from[1] + dy],
        text: `${mm(dx)}, ${mm(dy)}`,
        along: 'both',
        valueAt: ([x, y]) => [clean(rounded(x - from[0])), clean(rounded(y - from[1]))],
      }
    },
    turn: (_, value) => {
      const turned = Number(value ?? 0)
      const reach = Math.max((box.value[3] - box.value[1]) * TURN_SHARE, 5)
      const way = ((turned - 90) * Math.PI) / 180
      const from = centre.value
      return {
        from,
        at: [from[0] + reach * Math.cos(way), from[1] + reach * Math.sin(way)],
        text: `${number(turned, 1)}°`,
        along: 'x',
        valueAt: ([x, y]) => rounded((Math.atan2(y - from[1], x - from[0]) * 180) / Math.PI + 90, 1),
      }
    },
  }

  return computed<DraftHandle[]>(() =>
    draft.fields.flatMap((parameter) => {
      const made = MAKE[parameter.handle]?.(parameter, valueOf(parameter, draft.values))
      return [made ?? []].flat().map((one, k) => ({ id: `${parameter.name} ${k}`, parameter, ...one }))
    }),
  )
}
