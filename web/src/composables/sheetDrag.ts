import { computed, onUnmounted, shallowRef, type Ref } from 'vue'

import type { SheetShown } from '@/api/types'
import { useJob } from '@/stores/job'
import { useSheets } from '@/stores/sheets'

import { boxOfChains, chainsOf, laid, nearestOf, type Chains } from './sheetNearest'

/** What lies on a sheet, dragged: it snaps to the margin, to the middle and to the lines of the carrier, else to round
 * millimetres; Alt lets it go free. What is nearest to it is told.
 * flipped: the sheet is seen from its back; hair: a pixel on the screen, in mm. */
export function useSheetDrag(sheet: () => SheetShown, flipped: Ref<boolean>, hair: Ref<number>, svg: Ref<SVGSVGElement | null>) {
  const sheets = useSheets()
  const jobs = useJob()
  // What is dragged moves by itself until it is let go of.
  const held = shallowRef<{
    key: string
    from: DOMPoint
    x: number
    y: number
    dx: number
    dy: number
    /** Degrees that it is turned by, clockwise. */
    by: number
    box: [number, number, number, number]
  } | null>(null)
  /** Where an item lies by now. */
  const there = (item: SheetShown['items'][number]) => {
    const by = held.value?.key === item.key ? held.value : { dx: 0, dy: 0, by: 0 }
    return { x: item.x + by.dx, y: item.y + by.dy, turn: item.turn + by.by }
  }
  const place = (item: SheetShown['items'][number]) => {
    const { x, y, turn } = there(item)
    return `translate(${x} ${y}) rotate(${turn})`
  }
  function point(event: PointerEvent) {
    return new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.value!.getScreenCTM()!.inverse())
  }
  const STEP_MM = 0.5
  /** A move that brings what is held to the margin, or to the middle of the sheet, where it comes so near. */
  const SNAP_PX = 8
  const snapped = (by: number, places: number[]) => places.find((place) => Math.abs(place - by) < SNAP_PX * hair.value)
  /** The lines of the carrier are close together: only what comes this near takes one, so that there is room between. */
  const LINE_PX = 3
  /** The move that brings one of two edges to a line of the carrier. axis: 0 across, 1 down. */
  function toLine(by: number, edges: number[], axis: 0 | 1): number | undefined {
    const { carrier, at, width_mm: width } = sheet()
    if (!carrier) return undefined
    const mirrored = flipped.value && axis === 0
    return edges
      .map((edge) => {
        const on = (mirrored ? width - edge - by : edge + by) + at[axis]
        const off = Math.round(on / carrier.grid_mm) * carrier.grid_mm - on
        return by + (mirrored ? -off : off)
      })
      .find((place) => Math.abs(place - by) < LINE_PX * hair.value)
  }
  /** The box of an item as it lies on the sheet, in mm. */
  function boxOf(event: PointerEvent): [number, number, number, number] {
    const shape = (event.currentTarget as SVGGElement).getBoundingClientRect()
    const back = svg.value!.getScreenCTM()!.inverse()
    const [one, other] = [
      [shape.left, shape.top],
      [shape.right, shape.bottom],
    ].map(([x, y]) => new DOMPoint(x, y).matrixTransform(back))
    const { width_mm: width } = sheet()
    return flipped.value ? [width - other.x, one.y, width - one.x, other.y] : [one.x, one.y, other.x, other.y]
  }
  function down(event: PointerEvent, item: SheetShown['items'][number]) {
    sheets.picked = item.key
    svg.value?.focus()
    if (sheets.drafted || jobs.busy || event.button) return
    held.value = { key: item.key, from: point(event), x: item.x, y: item.y, dx: 0, dy: 0, by: 0, box: boxOf(event) }
    window.addEventListener('pointermove', move)
    window.addEventListener('pointerup', up, { once: true })
  }
  function move(event: PointerEvent) {
    const one = held.value
    if (!one) return
    const now = point(event)
    // Typed figures are round ones: so are dragged ones, unless Alt is held.
    const round = (value: number) => (event.altKey ? value : Math.round(value / STEP_MM) * STEP_MM)
    const [x, y] = [(now.x - one.from.x) * (flipped.value ? -1 : 1), now.y - one.from.y]
    const [left, top, right, bottom] = one.box
    const { margin_mm: margin, width_mm: width, height_mm: height } = sheet()
    const near = (by: number, low: number, high: number, side: number, axis: 0 | 1) =>
      event.altKey
        ? by
        : (snapped(by, [margin - low, side - margin - high, (side - low - high) / 2]) ?? toLine(by, [low, high], axis) ?? round(by))
    held.value = { ...one, dx: near(x, left, right, width, 0), dy: near(y, top, bottom, height, 1) }
  }
  const TURN_DEG = 15
  /** The handle above what is picked turns it about its centre, by steps unless Alt is held. */
  function turnDown(event: PointerEvent) {
    const item = sheets.item
    if (!item || sheets.drafted || jobs.busy || event.button) return
    held.value = { key: item.key, from: point(event), x: item.x, y: item.y, dx: 0, dy: 0, by: 0, box: [0, 0, 0, 0] }
    window.addEventListener('pointermove', turning)
    window.addEventListener('pointerup', up, { once: true })
  }
  function turning(event: PointerEvent) {
    const [one, item] = [held.value, sheets.item]
    if (!one || !item) return
    const middle = flipped.value ? sheet().width_mm - one.x : one.x
    const angle = (at: DOMPoint) => (Math.atan2(at.y - one.y, at.x - middle) * 180) / Math.PI
    const by = (angle(point(event)) - angle(one.from)) * (flipped.value ? -1 : 1)
    const turn = event.altKey ? item.turn + by : Math.round((item.turn + by) / TURN_DEG) * TURN_DEG
    held.value = { ...one, by: turn - item.turn }
  }
  async function up() {
    window.removeEventListener('pointermove', move)
    window.removeEventListener('pointermove', turning)
    const [one, item] = [held.value, sheets.item]
    // A click alone moves nothing.
    if (one && item && (one.dx || one.dy || one.by)) {
      const { x, y, turn } = there(item)
      await sheets.lay(x, y, ((turn % 360) + 360) % 360)
    }
    held.value = null
  }
  /** Outlines of each item about its centre, as they are needed. */
  const known = new Map<string, Chains>()
  let of: unknown = null
  function chains(item: string): Chains {
    const { shapes } = sheet()
    if (of !== shapes) known.clear()
    of = shapes
    if (!known.has(item)) known.set(item, chainsOf((shapes[item] ?? []).map((shape) => shape.path)))
    return known.get(item)!
  }
  const others = computed(() => {
    const rim = chainsOf([sheet().rim])
    const rows = sheet()
      .items.filter(({ key }) => key !== sheets.picked)
      .map((item) => {
        const there = laid({ ...item, chains: chains(item.item) })
        return { chains: there, box: boxOfChains(there), hollow: false }
      })
    return [...rows, { chains: rim, box: boxOfChains(rim), hollow: true }]
  })
  /** What is nearest to what is picked, wherever it is held. */
  const nearest = computed(() => {
    const item = sheets.item
    if (!item || !svg.value) return null
    return nearestOf(laid({ chains: chains(item.item), ...there(item) }), others.value)
  })
  /** The box of what is picked, where it lies by now. */
  const pickedBox = computed(() => {
    const item = sheets.item
    return item && svg.value ? boxOfChains(laid({ chains: chains(item.item), ...there(item) })) : null
  })
  onUnmounted(() => {
    window.removeEventListener('pointermove', move)
    window.removeEventListener('pointermove', turning)
  })
  return { place, down, turnDown, nearest, pickedBox }
}
