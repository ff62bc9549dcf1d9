import type { Ref } from 'vue'

import type { useViewport } from '@/composables/viewport'
import { before, toolAt } from '@/stores/played'
import { useWorking } from '@/stores/working'

import { paintNumbers, patternOf, strokeBySpeed, strokeRun, type Camera, type Colours } from './painting'

/** Paints the way of the tools: the sheet, what is done by now, the run under way, ways between runs, numbers, the tool. */
export function useWayPainting(
  host: Ref<HTMLElement | null>,
  canvas: Ref<HTMLCanvasElement | null>,
  { view, size }: ReturnType<typeof useViewport>,
  page: Ref<number[]>,
) {
  const working = useWorking()
  const camera = (): Camera => ({ ...view, ...size, ratio: window.devicePixelRatio || 1 })
  function colours(): Colours {
    const style = getComputedStyle(host.value!)
    const of = (name: string) => style.getPropertyValue(name).trim()
    return {
      ink: '#1b2a4e',
      pale: '#b9b3a2',
      paper: of('--paper') || '#fff',
      edge: of('--edge'),
      pick: of('--pick'),
      flag: of('--flag'),
      ground: of('--ground'),
    }
  }

  /** What does not change while it plays: the sheet with all lines pale; and what is done, which only grows. */
  const still = document.createElement('canvas')
  const past = document.createElement('canvas')
  let stillFor = ''
  let pastFor = ''
  let pastRuns = 0
  let stillOf: unknown = null

  function begin(on: HTMLCanvasElement, at: Camera): CanvasRenderingContext2D {
    on.width = Math.round(at.width * at.ratio)
    on.height = Math.round(at.height * at.ratio)
    const pen = on.getContext('2d')!
    pen.scale(at.ratio, at.ratio)
    pen.lineJoin = pen.lineCap = 'round'
    return pen
  }

  function paintStill(at: Camera, paint: Colours) {
    const shown = working.shown!
    const pen = begin(still, at)
    pen.fillStyle = paint.paper
    pen.strokeStyle = paint.edge
    pen.beginPath()
    pen.rect(at.x, at.y, page.value[0] * at.scale, page.value[1] * at.scale)
    pen.fill()
    pen.stroke()
    pen.strokeStyle = paint.pale
    pen.lineWidth = 1.2
    for (let k = 0; k < shown.ends.length; k++) {
      pen.setLineDash(patternOf(shown, k))
      pen.globalAlpha = working.isLeft(k) ? 1 : 0.35
      strokeRun(pen, shown, k, at)
    }
  }

  /** Runs that are done are drawn once, as they are done. */
  function paintPast(at: Camera, paint: Colours, until: number) {
    const shown = working.shown!
    let pen = past.getContext('2d')!
    if (until < pastRuns) {
      pen = begin(past, at)
      pastRuns = 0
    }
    pen.strokeStyle = paint.ink
    for (let k = pastRuns; k < until; k++) {
      if (!working.isLeft(k)) continue
      pen.lineWidth = 1.8
      pen.setLineDash(working.speed ? [] : patternOf(shown, k))
      if (working.speed) strokeBySpeed(pen, shown, k, at)
      else strokeRun(pen, shown, k, at)
    }
    pastRuns = until
  }

  function paintTravel(pen: CanvasRenderingContext2D, at: Camera, paint: Colours, until: number) {
    const shown = working.shown!
    pen.setLineDash([3, 4])
    pen.lineWidth = 1
    pen.strokeStyle = paint.pick
    pen.globalAlpha = 0.75
    pen.beginPath()
    for (let k = 0; k <= until; k++) {
      const from = before(shown, k)
      const i = shown.start[k]
      pen.moveTo(from[0] * at.scale + at.x, from[1] * at.scale + at.y)
      let to: [number, number] = [shown.points[2 * i], shown.points[2 * i + 1]]
      if (k === until && working.time < shown.begins[k]) to = toolAt(shown, working.run, working.time)
      pen.lineTo(to[0] * at.scale + at.x, to[1] * at.scale + at.y)
    }
    pen.stroke()
    pen.globalAlpha = 1
    pen.setLineDash([])
  }

  function paint() {
    const shown = working.shown
    const on = canvas.value
    if (!shown || !on || !size.width) return
    const at = camera()
    const key = [
      at.scale,
      at.x,
      at.y,
      at.width,
      at.height,
      at.ratio,
      working.from,
      working.done.join(),
      document.documentElement.className,
    ].join()
    const as = colours()
    if (stillFor !== key || stillOf !== shown) {
      paintStill(at, as)
      stillFor = key
    }
    const doneFor = `${key} ${working.speed}`
    if (pastFor !== doneFor || stillOf !== shown) {
      begin(past, at)
      pastRuns = 0
      pastFor = doneFor
    }
    stillOf = shown
    const over = working.time >= working.total - 1e-6
    const k = working.run
    paintPast(at, as, over ? shown.ends.length : k)
    const pen = begin(on, at)
    pen.save()
    pen.setTransform(1, 0, 0, 1, 0, 0)
    pen.drawImage(still, 0, 0)
    pen.drawImage(past, 0, 0)
    pen.restore()
    if (!over && working.time > shown.begins[k]) {
      pen.strokeStyle = as.ink
      pen.lineWidth = 1.8
      pen.setLineDash(patternOf(shown, k))
      strokeRun(pen, shown, k, at, working.time - shown.begins[k])
    }
    if (working.travel && shown.ends.length) paintTravel(pen, at, as, over ? shown.ends.length - 1 : k)
    if (working.picked >= 0) {
      pen.setLineDash([])
      pen.strokeStyle = as.pick
      pen.lineWidth = 3
      const row = working.stretches[working.picked]
      for (let n = row?.first ?? 0; row && n <= row.last; n++) strokeRun(pen, shown, n, at)
    }
    if (working.numbers) paintNumbers(pen, shown, at, as, working.stretches, working.row, working.isLeft)
    if (!over && shown.ends.length) {
      const [x, y] = toolAt(shown, working.run, working.time).map((v, n) => v * at.scale + (n ? at.y : at.x))
      pen.setLineDash([])
      pen.lineWidth = 2
      pen.strokeStyle = as.flag
      pen.beginPath()
      pen.arc(x, y, 7, 0, 2 * Math.PI)
      pen.moveTo(x - 12, y)
      pen.lineTo(x + 12, y)
      pen.moveTo(x, y - 12)
      pen.lineTo(x, y + 12)
      pen.stroke()
    }
  }
  return paint
}
