import { computed, onMounted, onUnmounted, reactive, ref, type Ref } from 'vue'

import { useScreenSize } from './screenSize'

export type Box = [number, number, number, number]

const NEAREST = 400
const FARTHEST = 0.02

/** Where the work lies in the window: scale in px per mm, offset in px. Zooms to the pointer, pans, flies to boxes. */
export function useViewport(element: Ref<Element | null>) {
  const view = reactive({ scale: 1, x: 0, y: 0 })
  const size = reactive({ width: 0, height: 0 })
  const moved = ref(false)
  let observer: ResizeObserver | undefined
  let flight = 0
  let last: { box: Box; margin: number } | null = null

  const matrix = computed(() => `translate(${view.x} ${view.y}) scale(${view.scale})`)
  const { pxPerMm } = useScreenSize()
  const percent = computed(() => (view.scale / pxPerMm.value) * 100)
  const toScreen = (x: number, y: number): [number, number] => [x * view.scale + view.x, y * view.scale + view.y]

  function zoomAt(px: number, py: number, factor: number) {
    cancelAnimationFrame(flight)
    const scale = Math.min(Math.max(view.scale * factor, FARTHEST), NEAREST)
    const real = scale / view.scale
    view.x = px - (px - view.x) * real
    view.y = py - (py - view.y) * real
    view.scale = scale
    moved.value = true
  }
  const zoom = (factor: number) => zoomAt(size.width / 2, size.height / 2, factor)
  /** Shows everything as large as it is on this screen. */
  const trueSize = () => zoom(pxPerMm.value / view.scale)

  function pan(dx: number, dy: number) {
    cancelAnimationFrame(flight)
    view.x += dx
    view.y += dy
    moved.value = true
  }

  function goal([left, top, right, bottom]: Box, margin: number) {
    const room = { w: Math.max(size.width - 2 * margin, 40), h: Math.max(size.height - 2 * margin, 40) }
    const wide = Math.max(right - left, 0.05)
    const high = Math.max(bottom - top, 0.05)
    const scale = Math.min(Math.max(Math.min(room.w / wide, room.h / high), FARTHEST), NEAREST)
    return {
      scale,
      x: size.width / 2 - ((left + right) / 2) * scale,
      y: size.height / 2 - ((top + bottom) / 2) * scale,
    }
  }

  /** Shows a box whole, at once. */
  function fit(box: Box, margin = 64) {
    cancelAnimationFrame(flight)
    last = { box, margin }
    Object.assign(view, goal(box, margin))
    moved.value = false
  }

  /** Flies to a box, or jumps there where less motion is asked for. */
  function fly(box: Box, margin = 120) {
    cancelAnimationFrame(flight)
    const to = goal(box, margin)
    moved.value = true
    if (window.matchMedia('(prefers-reduced-motion: reduce)').matches) return void Object.assign(view, to)
    const from = { ...view }
    const begin = performance.now()
    const step = (now: number) => {
      const t = Math.min((now - begin) / 260, 1)
      const ease = 1 - (1 - t) ** 3
      // The scale grows evenly to the eye; the middle of the window goes straight.
      view.scale = from.scale * (to.scale / from.scale) ** ease
      const middle = (v: typeof from) => [(size.width / 2 - v.x) / v.scale, (size.height / 2 - v.y) / v.scale]
      const [ax, ay] = middle(from)
      const [bx, by] = middle(to)
      view.x = size.width / 2 - (ax + (bx - ax) * ease) * view.scale
      view.y = size.height / 2 - (ay + (by - ay) * ease) * view.scale
      if (t < 1) flight = requestAnimationFrame(step)
    }
    flight = requestAnimationFrame(step)
  }

  onMounted(() => {
    observer = new ResizeObserver(([entry]) => {
      size.width = entry.contentRect.width
      size.height = entry.contentRect.height
      if (last && !moved.value) fit(last.box, last.margin)
    })
    if (element.value) observer.observe(element.value)
  })
  onUnmounted(() => {
    observer?.disconnect()
    cancelAnimationFrame(flight)
  })
  return { view, size, matrix, percent, moved, toScreen, zoomAt, zoom, trueSize, pan, fit, fly }
}

export type Viewport = ReturnType<typeof useViewport>
