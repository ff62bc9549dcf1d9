import { mount } from '@vue/test-utils'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { defineComponent, ref } from 'vue'

import { PX_PER_MM } from '@/composables/screenSize'
import { useViewport, type Viewport } from '@/composables/viewport'

let resized: (entries: { contentRect: { width: number; height: number } }[]) => void
let frames: ((now: number) => void)[] = []
let still = false

beforeEach(() => {
  frames = []
  still = false
  vi.stubGlobal(
    'ResizeObserver',
    class {
      constructor(found: typeof resized) {
        resized = found
      }
      observe() {}
      disconnect() {}
    },
  )
  vi.stubGlobal('requestAnimationFrame', (step: (now: number) => void) => frames.push(step))
  vi.stubGlobal('cancelAnimationFrame', () => (frames = []))
  vi.stubGlobal('matchMedia', () => ({ matches: still }))
  vi.spyOn(performance, 'now').mockReturnValue(0)
})
afterEach(() => vi.restoreAllMocks())

function opened(width = 800, height = 600): Viewport {
  let made!: Viewport
  const element = ref<Element | null>(document.createElement('div'))
  mount(defineComponent({ setup: () => ((made = useViewport(element)), () => null) }))
  resized([{ contentRect: { width, height } }])
  return made
}
/** What lies at a place of the window. */
const at = ({ view }: Viewport, px: number, py: number) => [(px - view.x) / view.scale, (py - view.y) / view.scale]

it('shows a box whole, in the middle, with room about it', () => {
  const made = opened()
  made.fit([10, 20, 110, 40], 64)
  expect(made.view.scale).toBeCloseTo((800 - 128) / 100)
  expect(made.toScreen(60, 30)).toEqual([400, 300])
  expect(made.toScreen(10, 20)[0]).toBeCloseTo(64)
  expect(made.moved.value).toBe(false)
})

it('zooms about a place, which stays where it is', () => {
  const made = opened()
  made.fit([0, 0, 100, 100])
  const before = at(made, 123, 456)
  made.zoomAt(123, 456, 1.7)
  at(made, 123, 456).forEach((value, i) => expect(value).toBeCloseTo(before[i]))
  made.zoom(0.5)
  expect(made.percent.value).toBeCloseTo((made.view.scale / PX_PER_MM) * 100)
  expect(made.moved.value).toBe(true)
})

it('goes no nearer and no farther than can be looked at, and stays in place there', () => {
  const made = opened()
  made.fit([0, 0, 100, 100])
  made.zoomAt(10, 10, 1e9)
  const { scale } = made.view
  const before = at(made, 10, 10)
  made.zoomAt(10, 10, 10)
  expect(made.view.scale).toBe(scale)
  expect(at(made, 10, 10)).toEqual(before)
  made.zoomAt(10, 10, 1e-12)
  expect(made.view.scale).toBeGreaterThan(0.01)
})

it('follows the window until somebody moves what is seen', () => {
  const made = opened(800, 600)
  made.fit([0, 0, 100, 10], 0)
  resized([{ contentRect: { width: 400, height: 600 } }])
  expect(made.view.scale).toBeCloseTo(4)
  made.pan(7, -3)
  const { x, y, scale } = made.view
  resized([{ contentRect: { width: 900, height: 600 } }])
  expect([made.view.x, made.view.y, made.view.scale]).toEqual([x, y, scale])
})

it('flies to a box over some frames, and arrives', () => {
  const made = opened()
  made.fit([0, 0, 100, 100])
  const begin = made.view.scale
  made.fly([40, 40, 50, 50], 100)
  expect(made.view.scale).toBe(begin)
  frames.shift()!(130)
  expect(made.view.scale).toBeGreaterThan(begin)
  const between = made.view.scale
  frames.shift()!(260)
  expect(made.view.scale).toBeGreaterThan(between)
  expect(made.toScreen(45, 45).map(Math.round)).toEqual([400, 300])
  expect(frames).toEqual([])
})

it('jumps where less motion is asked for, and stops flying when it is moved by hand', () => {
  const made = opened()
  made.fit([0, 0, 100, 100])
  made.fly([0, 0, 10, 10])
  made.pan(1, 0)
  expect(frames).toEqual([])
  still = true
  made.fly([40, 40, 50, 50], 100)
  expect(made.toScreen(45, 45).map(Math.round)).toEqual([400, 300])
  expect(frames).toEqual([])
})

it('shows a single point at a scale that can be looked at', () => {
  const made = opened()
  made.fit([5, 5, 5, 5])
  expect(Number.isFinite(made.view.scale)).toBe(true)
  expect(made.toScreen(5, 5)).toEqual([400, 300])
})
