import { PATTERN } from '@/canvas/patterns'
import type { Played } from '@/stores/played'
import type { Stretch } from '@/stores/working'

/** More numbers than these are not read; of more than a few they are smaller. */
const MOST_NUMBERS = 400
const FEW = 30

/** Where the work lies in the window: px per mm, and offset in px. */
export interface Camera {
  scale: number
  x: number
  y: number
  width: number
  height: number
  ratio: number
}
export interface Colours {
  ink: string
  pale: string
  paper: string
  edge: string
  pick: string
  flag: string
  ground: string
}

/** A run up to a time in it, in seconds; whole without. Dashes by treatment, never by colour alone. */
export function strokeRun(pen: CanvasRenderingContext2D, at: Played, k: number, camera: Camera, until = Infinity) {
  const [first, end] = [at.start[k], at.start[k + 1]]
  const { points, clock } = at
  pen.beginPath()
  pen.moveTo(points[2 * first] * camera.scale + camera.x, points[2 * first + 1] * camera.scale + camera.y)
  for (let i = first + 1; i < end; i++) {
    let share = 1
    if (clock[i] > until) share = Math.max((until - clock[i - 1]) / Math.max(clock[i] - clock[i - 1], 1e-9), 0)
    const x = points[2 * i - 2] + (points[2 * i] - points[2 * i - 2]) * share
    const y = points[2 * i - 1] + (points[2 * i + 1] - points[2 * i - 1]) * share
    pen.lineTo(x * camera.scale + camera.x, y * camera.scale + camera.y)
    if (share < 1) break
  }
  pen.stroke()
}

export const patternOf = (at: Played, k: number) => PATTERN[at.program.tools[at.program.runs.tool[k]].treatment]

/** The speed of each stretch of a run as the width of its line: the slowest are the broadest. */
export function strokeBySpeed(pen: CanvasRenderingContext2D, at: Played, k: number, camera: Camera) {
  const { points, clock } = at
  const top = at.program.tools[at.program.runs.tool[k]].speed_mm_s ?? 20
  for (let i = at.start[k] + 1; i < at.start[k + 1]; i++) {
    const long = Math.hypot(points[2 * i] - points[2 * i - 2], points[2 * i + 1] - points[2 * i - 1])
    const speed = long / Math.max(clock[i] - clock[i - 1], 1e-6)
    pen.lineWidth = 1.2 + 5 * Math.max(1 - speed / top, 0)
    pen.beginPath()
    pen.moveTo(points[2 * i - 2] * camera.scale + camera.x, points[2 * i - 1] * camera.scale + camera.y)
    pen.lineTo(points[2 * i] * camera.scale + camera.x, points[2 * i + 1] * camera.scale + camera.y)
    pen.stroke()
  }
}

/** The number of each row where it begins; that of the row under way stands out. */
export function paintNumbers(
  pen: CanvasRenderingContext2D,
  at: Played,
  camera: Camera,
  paint: Colours,
  rows: Stretch[],
  now: number,
  isLeft: (run: number) => boolean,
) {
  if (rows.length > MOST_NUMBERS) return
  const small = rows.length > FEW
  const high = small ? 14 : 18
  pen.font = `600 ${small ? 10 : 12}px "Atkinson Hyperlegible Next Variable", sans-serif`
  pen.textAlign = 'center'
  pen.textBaseline = 'middle'
  rows.forEach((one, n) => {
    const i = at.start[one.first]
    const [x, y] = [at.points[2 * i] * camera.scale + camera.x, at.points[2 * i + 1] * camera.scale + camera.y]
    const text = String(n + 1)
    const wide = Math.max(pen.measureText(text).width + 6, high)
    pen.fillStyle = n === now ? paint.pick : paint.ink
    pen.globalAlpha = isLeft(one.first) ? 1 : 0.4
    pen.beginPath()
    pen.roundRect(x - wide / 2, y - high / 2, wide, high, high / 2)
    pen.fill()
    pen.fillStyle = '#fff'
    pen.fillText(text, x, y + 0.5)
  })
  pen.globalAlpha = 1
}
