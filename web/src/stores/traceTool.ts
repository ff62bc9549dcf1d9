import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'

import { Regions, type Hit } from '@/canvas/regions'
import { announce } from '@/composables/announce'
import { inverted, through, type Plane } from '@/canvas/plane'

import { words } from '@/words'

import { useDrawing } from './drawing'
import { useTrace } from './trace'
import type { Pixel } from './traceOptions'

/** What a colour is that is dragged from the bar onto a piece. */
export const COLOUR = 'application/x-hakobu-colour'
/** What a press on the picture does while a trace is set up. */
export type Tool = 'leave' | 'paint' | 'colour' | 'crop' | 'inside' | 'beyond' | 'ends'
/** Tools that follow a drag rather than a press. */
export const DRAWN: Tool[] = ['crop', 'inside', 'beyond', 'ends']
/** Marks of a stroke lie no nearer to each other than this, as a share of the picture's longer side. */
const APART = 0.012

/** What is done on the picture itself: pieces left out, filled or given another colour, a colour pointed at, a part of
 *  the picture chosen, marks drawn, two points set. */
export const useTraceTool = defineStore('traceTool', () => {
  const trace = useTrace()
  const drawing = useDrawing()
  const tool = ref<Tool>('leave')
  /** The colour that pieces are given. */
  const paint = ref('')
  const hovered = ref<Hit | null>(null)
  watch(
    () => trace.before,
    () => (tool.value = 'leave'),
  )

  const regions = computed(() => (trace.shown && !trace.shown.coarse && trace.shown.parts.length ? new Regions(trace.shown) : null))
  watch(regions, () => (hovered.value = null))

  /** From the pixels by which places are named to mm, and from those of the picture as it lies there. */
  const places = computed<Plane | null>(() => {
    const m = trace.shown?.matrix
    return m ? [m[0], m[2], m[4], m[1], m[3], m[5], 0, 0, 1] : null
  })
  const lies = computed<Plane | null>(() => (trace.shown?.plane as Plane | null) ?? places.value)
  const pixelAt = (plane: Plane | null, x: number, y: number): Pixel | null => {
    if (!plane) return null
    const [px, py] = through(inverted(plane), x, y)
    return [Math.floor(px), Math.floor(py)]
  }
  const mmOf = ([x, y]: Pixel): [number, number] => (places.value ? through(places.value, x + 0.5, y + 0.5) : [0, 0])

  /** What is left out or filled, where it is marked, in mm. */
  const marks = computed(() => [
    ...trace.options.dropped.map((at) => ({ name: 'dropped' as const, at, mm: mmOf(at) })),
    ...trace.options.kept.map((at) => ({ name: 'kept' as const, at, mm: mmOf(at) })),
  ])
  /** How many single wishes there are about pieces. */
  const wishes = computed(() => trace.options.dropped.length + trace.options.kept.length + trace.options.moved.length)

  const seedOf = (part: number) => trace.shown!.parts[part][0].split(':').at(-1)!
  const pixelOf = (part: number) => seedOf(part).split(',').map(Number) as Pixel
  const has = (list: Pixel[], at: Pixel) => list.some(([x, y]) => x === at[0] && y === at[1])

  function point(x: number, y: number, reach: number) {
    hovered.value = tool.value === 'leave' || tool.value === 'paint' ? (regions.value?.at(x, y, reach) ?? null) : null
  }

  /** A press at a place in mm. What the picture holds there is told by the reader of colours. */
  function press(x: number, y: number, reach: number, colourAt: (at: Pixel) => string | null) {
    if (tool.value === 'colour') {
      const at = pixelAt(lies.value, x, y)
      const colour = at && colourAt(at)
      // Beside the picture, or before it has come, there is no colour yet to take.
      if (!colour) return
      trace.tell('colour', colour)
      tool.value = 'leave'
      return
    }
    const mark = marks.value.find((one) => Math.hypot(one.mm[0] - x, one.mm[1] - y) <= reach)
    if (mark && tool.value === 'leave') return takeBack(mark.name, mark.at)
    const hit = regions.value?.at(x, y, reach)
    if (tool.value === 'paint' && hit && !hit.hollow) return give(hit.part, paint.value)
    if (tool.value !== 'leave') return
    const at = pixelAt(places.value, x, y)
    if (hit && !hit.hollow) return leave(hit.part, at)
    if (at && (hit || trace.mode === 'colour')) trace.tell('kept', [...trace.options.kept, at])
  }

  /** A colour that was dragged onto a piece. */
  function dropped(colour: string, x: number, y: number, reach: number) {
    const hit = regions.value?.at(x, y, reach)
    if (hit && !hit.hollow) give(hit.part, colour)
  }

  /** Leaves a piece out by the place that was pressed; a single line, which has no inside, by where it grows from. */
  function leave(part: number, pressed: Pixel | null) {
    const { layers, parts } = trace.shown!
    const at = layers[parts[part][1]].lines || !pressed ? pixelOf(part) : pressed
    if (!has(trace.options.dropped, at)) trace.tell('dropped', [...trace.options.dropped, at])
  }
  function give(part: number, colour: string) {
    const seed = seedOf(part)
    const others = trace.options.moved.filter((wish) => !wish.startsWith(`${seed} `))
    trace.tell('moved', [...others, `${seed} ${colour}`])
  }
  function takeBack(name: 'dropped' | 'kept', at: Pixel) {
    trace.tell(
      name,
      trace.options[name].filter(([x, y]) => x !== at[0] || y !== at[1]),
    )
  }
  /** Goes from piece to piece, for hands on the keys; the one that is meant is lit. */
  function step(by: 1 | -1) {
    const count = trace.shown?.parts.length ?? 0
    if (!regions.value || !count) return
    const now = hovered.value?.part ?? (by > 0 ? -1 : 0)
    const part = (now + by + count) % count
    hovered.value = { part, hollow: false }
    announce(words.trace.bar.at(part + 1, count))
  }
  /** Does to the piece that is lit what a press would. */
  function use() {
    const hit = hovered.value
    if (!hit || hit.hollow || !trace.shown || !regions.value) return
    if (tool.value === 'paint') give(hit.part, paint.value)
    else if (tool.value === 'leave') leave(hit.part, null)
  }
  const takeAllBack = () => trace.reset('dropped', 'kept', 'moved')

  /** Takes up a tool; the same again lays it down. */
  function choose(next: Tool, colour = '') {
    const again = tool.value === next && paint.value === colour
    tool.value = again ? 'leave' : next
    paint.value = again ? '' : colour
  }

  /** A drag that is over: its places in mm. */
  function drawn(stroke: [number, number][]) {
    const flat = tool.value === 'crop' ? lies.value : places.value
    const pixels = stroke.map(([x, y]) => pixelAt(flat, x, y)).filter((at): at is Pixel => !!at)
    if (!pixels.length) return
    const ends: Pixel[] = [pixels[0], pixels.at(-1)!]
    if (tool.value === 'crop' || tool.value === 'ends') {
      if (tool.value === 'crop') trace.tell('crop', ends)
      // The distance is still to be typed; until then the scale is as it was.
      else trace.options.ends = ends
      tool.value = 'leave'
    } else if (tool.value === 'inside' || tool.value === 'beyond') {
      trace.tell(tool.value, [...trace.options[tool.value], ...thinned(pixels)])
    }
  }
  /** Marks of a stroke, no more than tell its way. */
  function thinned(pixels: Pixel[]): Pixel[] {
    const size = drawing.drawing?.pictures.find((p) => p.id === trace.picture)?.size_px ?? [0, 0]
    const apart = Math.max(APART * Math.max(...size), 1)
    const kept = [pixels[0]]
    for (const at of pixels) {
      const last = kept.at(-1)!
      if (Math.hypot(at[0] - last[0], at[1] - last[1]) >= apart) kept.push(at)
    }
    return kept
  }

  /** Where the picture lies once its lines are as large as they are to be, in mm; null while it lies as before. */
  const box = computed<[number, number, number, number] | null>(() => {
    const picture = drawing.drawing?.pictures.find((p) => p.id === trace.picture)
    if (!lies.value || !picture) return null
    const [width, height] = picture.size_px
    const rim = [
      [0, 0],
      [width, 0],
      [width, height],
      [0, height],
    ].map(([x, y]) => through(lies.value!, x, y))
    const [xs, ys] = [rim.map(([x]) => x), rim.map(([, y]) => y)]
    return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)].map((v) => Number(v.toPrecision(4))) as never
  })

  return {
    tool,
    paint,
    hovered,
    box,
    regions,
    places,
    lies,
    marks,
    wishes,
    point,
    press,
    dropped,
    step,
    use,
    choose,
    takeAllBack,
    drawn,
    mmOf,
  }
})
