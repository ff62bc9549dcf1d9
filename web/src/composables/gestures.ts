import { onMounted, onUnmounted, ref, type Ref } from 'vue'

import type { Box } from '@/canvas/board/scene'

import type { Viewport } from './viewport'

/** Which keys are held, or that a finger or pen does it. */
export interface Held {
  add: boolean
  away: boolean
  touch: boolean
}

/** What gestures on the work mean. */
export interface Meanings {
  point: (x: number, y: number, held: Held) => void
  click: (x: number, y: number, held: Held) => void
  band: (box: Box, held: Held) => void
  leave: () => void
}

/** A press that moves no farther than this, in pixels, is a click. */
const STILL_PX = 4
const STILL_TOUCH_PX = 10
/** A finger that rests so long, in ms, begins a band. */
const REST_MS = 450

/** Mouse, pen and touch on the work: a drag moves it, two fingers zoom, a drag with Shift (or after a long press) draws a
 * band, a click picks. */
export function useGestures(element: Ref<HTMLElement | null>, viewport: Viewport, meanings: Meanings) {
  const band = ref<Box | null>(null)
  const dragging = ref(false)
  const down = new Map<number, { x: number; y: number }>()
  let begun: { x: number; y: number; moved: boolean; held: Held; bands: boolean } | null = null
  let resting = 0

  const heldOf = (event: PointerEvent): Held => ({
    add: event.shiftKey,
    away: event.shiftKey && (event.ctrlKey || event.metaKey),
    touch: event.pointerType !== 'mouse',
  })
  function place(event: MouseEvent): { x: number; y: number } {
    const box = element.value!.getBoundingClientRect()
    return { x: event.clientX - box.left, y: event.clientY - box.top }
  }

  function press(event: PointerEvent) {
    if (event.button > 1) return
    element.value!.setPointerCapture(event.pointerId)
    const at = place(event)
    down.set(event.pointerId, at)
    if (down.size > 1) return stop()
    const held = heldOf(event)
    begun = { ...at, moved: false, held, bands: event.shiftKey && event.button === 0 }
    if (held.touch) resting = window.setTimeout(() => begun && !begun.moved && (begun.bands = true), REST_MS)
  }

  function move(event: PointerEvent) {
    const before = down.get(event.pointerId)
    const at = place(event)
    if (!before) return meanings.point(at.x, at.y, heldOf(event))
    down.set(event.pointerId, at)
    if (down.size === 2) return pinch(event.pointerId, before, at)
    if (!begun) return
    const still = begun.held.touch ? STILL_TOUCH_PX : STILL_PX
    if (!begun.moved && Math.hypot(at.x - begun.x, at.y - begun.y) < still) return
    begun.moved = true
    window.clearTimeout(resting)
    if (begun.bands) {
      band.value = [Math.min(begun.x, at.x), Math.min(begun.y, at.y), Math.max(begun.x, at.x), Math.max(begun.y, at.y)]
    } else {
      dragging.value = true
      viewport.pan(at.x - before.x, at.y - before.y)
    }
  }

  function pinch(id: number, before: { x: number; y: number }, at: { x: number; y: number }) {
    const [other] = [...down].filter(([key]) => key !== id).map(([, value]) => value)
    const was = Math.hypot(before.x - other.x, before.y - other.y)
    const is = Math.hypot(at.x - other.x, at.y - other.y)
    viewport.pan((at.x - before.x) / 2, (at.y - before.y) / 2)
    if (was > 1) viewport.zoomAt((at.x + other.x) / 2, (at.y + other.y) / 2, is / was)
  }

  function lift(event: PointerEvent) {
    down.delete(event.pointerId)
    window.clearTimeout(resting)
    if (!begun) return
    const at = place(event)
    const { held, moved } = begun
    if (band.value) meanings.band(band.value, { ...held, add: true })
    else if (!moved && event.button === 0) meanings.click(at.x, at.y, held)
    stop()
  }

  function stop() {
    begun = null
    band.value = null
    dragging.value = false
    window.clearTimeout(resting)
  }
  function cancel(event: PointerEvent) {
    down.delete(event.pointerId)
    stop()
  }

  function wheel(event: WheelEvent) {
    event.preventDefault()
    const at = place(event)
    const lines = event.deltaMode === 1 ? 33 : 1
    viewport.zoomAt(at.x, at.y, Math.exp(-event.deltaY * lines * 0.0016))
  }

  onMounted(() => element.value?.addEventListener('wheel', wheel, { passive: false }))
  onUnmounted(stop)
  const handlers = {
    onPointerdown: press,
    onPointermove: move,
    onPointerup: lift,
    onPointercancel: cancel,
    onPointerleave: () => meanings.leave(),
  }
  return { band, dragging, handlers }
}
