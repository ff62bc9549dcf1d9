import { onUnmounted, shallowRef, type Ref } from 'vue'

import type { SheetShown } from '@/api/types'
import { useJob } from '@/stores/job'
import { useSheets } from '@/stores/sheets'

/** What lies on a sheet, dragged: it snaps to the margin and to the middle, else to round millimetres; Alt lets it go free.
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
    box: [number, number, number, number]
  } | null>(null)
  const place = (item: SheetShown['items'][number]) => {
    const by = held.value?.key === item.key ? held.value : { dx: 0, dy: 0 }
    return `translate(${item.x + by.dx} ${item.y + by.dy}) rotate(${item.turn})`
  }
  function point(event: PointerEvent) {
    return new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.value!.getScreenCTM()!.inverse())
  }
  const STEP_MM = 0.5
  /** A move that brings what is held to the margin, or to the middle of the sheet, where it comes so near. */
  const SNAP_PX = 8
  const snapped = (by: number, places: number[]) => places.find((place) => Math.abs(place - by) < SNAP_PX * hair.value)
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
    held.value = { key: item.key, from: point(event), x: item.x, y: item.y, dx: 0, dy: 0, box: boxOf(event) }
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
    const near = (by: number, low: number, high: number, side: number) =>
      event.altKey ? by : (snapped(by, [margin - low, side - margin - high, (side - low - high) / 2]) ?? round(by))
    held.value = { ...one, dx: near(x, left, right, width), dy: near(y, top, bottom, height) }
  }
  async function up() {
    window.removeEventListener('pointermove', move)
    const one = held.value
    const item = sheets.item
    if (one && item && (one.dx || one.dy)) await sheets.lay(one.x + one.dx, one.y + one.dy, item.turn)
    held.value = null
  }
  onUnmounted(() => window.removeEventListener('pointermove', move))
  return { place, down }
}
