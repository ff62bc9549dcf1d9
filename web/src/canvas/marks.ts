import type { Shape } from '@/api/unpack'
import type { Drawn } from '@/stores/drawing'
import type { Pick } from '@/stores/picks'

import { pathOf } from './board/paths'
import type { Box } from './board/scene'
import { FLAG, INK, PICK } from './looks'
import type { Target } from './picker'

/** A place of the plane on the screen. */
export interface Eye {
  scale: number
  x: number
  y: number
  box: Box
}

const PAPER = '#fffdf7'
/** More nodes than this are a blur, and slow: then they wait until somebody zooms in. */
const MOST_NODES = 3000
const LARGEST = 3.5
const SMALLEST = 1.4
/** More outlines than this in view have no room for their starts and numbers. */
const MOST_STARTS = 80
/** Shapes of more points than this are shown as picked by their boxes. */
const MOST_POINTS = 60_000
const MORE_PX = 9

const overlaps = ({ box }: Shape, dx: number, dy: number, view: Box, more: number) =>
  box[0] + dx - more <= view[2] && box[2] + dx + more >= view[0] && box[1] + dy - more <= view[3] && box[3] + dy + more >= view[1]

/** Nodes of what is in view: corners as squares, smooth ones as circles, smaller where they stand close. */
export function drawNodes(context: CanvasRenderingContext2D, drawn: Drawn[], eye: Eye, perNodeMm: number): boolean {
  const half = Math.min(Math.max((perNodeMm * eye.scale) / 14, SMALLEST), LARGEST)
  const path = new Path2D()
  const more = MORE_PX / eye.scale
  let number = 0
  for (const { shape } of drawn) {
    if (!overlaps(shape, 0, 0, eye.box, more)) continue
    for (let i = 0; i < shape.corners.length; i++) {
      const [x, y] = [shape.nodes[2 * i], shape.nodes[2 * i + 1]]
      if (x < eye.box[0] - more || y < eye.box[1] - more || x > eye.box[2] + more || y > eye.box[3] + more) continue
      if (++number > MOST_NODES) return false
      node(path, x * eye.scale + eye.x, y * eye.scale + eye.y, half, !!shape.corners[i])
    }
  }
  Object.assign(context, { fillStyle: PAPER, strokeStyle: PICK, lineWidth: 1.3, globalAlpha: 1 })
  context.fill(path)
  context.stroke(path)
  return number > 0
}

function node(path: Path2D, x: number, y: number, half: number, corner: boolean) {
  if (corner) path.rect(x - half, y - half, 2 * half, 2 * half)
  else {
    path.moveTo(x + half, y)
    path.arc(x, y, half, 0, 2 * Math.PI)
  }
}

/** Where each outline starts, which way it runs, and as which one it is made, where there is room for that. */
export function drawStarts(context: CanvasRenderingContext2D, drawn: Drawn[], eye: Eye, first: ReadonlyMap<string, number>): void {
  const arrows = new Path2D()
  const names: [string, number, number][] = []
  for (const { piece, layer, shape } of drawn) {
    if (layer.treatment === 'print' || !overlaps(shape, 0, 0, eye.box, 0)) continue
    for (let k = 0; k < shape.closed.length; k++) {
      const i = shape.start[k]
      const [mx, my] = [shape.points[2 * i], shape.points[2 * i + 1]]
      if (mx < eye.box[0] || my < eye.box[1] || mx > eye.box[2] || my > eye.box[3]) continue
      if (names.length >= MOST_STARTS) return
      const [x, y] = [mx * eye.scale + eye.x, my * eye.scale + eye.y]
      const next = ahead(shape, k, 12 / eye.scale)
      const angle = Math.atan2(next[1] - my, next[0] - mx)
      arrow(arrows, x, y, angle)
      names.push([String((first.get(piece.id) ?? 0) + k + 1), x + 9 * Math.sin(angle), y - 9 * Math.cos(angle)])
    }
  }
  Object.assign(context, {
    fillStyle: INK,
    globalAlpha: 1,
    font: '600 11px "Atkinson Hyperlegible Next Variable", sans-serif',
    textAlign: 'center',
    textBaseline: 'middle',
  })
  context.fill(arrows)
  Object.assign(context, { strokeStyle: PAPER, lineWidth: 3, lineJoin: 'round' })
  for (const [name, x, y] of names) {
    context.strokeText(name, x, y)
    context.fillText(name, x, y)
  }
}

/** A point of an outline so far from its start that the direction can be told. */
function ahead({ points, start }: Shape, k: number, least: number): [number, number] {
  const [x, y] = [points[2 * start[k]], points[2 * start[k] + 1]]
  for (let i = start[k] + 1; i < start[k + 1]; i++) {
    if (Math.hypot(points[2 * i] - x, points[2 * i + 1] - y) >= least) return [points[2 * i], points[2 * i + 1]]
  }
  const next = Math.min(start[k] + 1, start[k + 1] - 1)
  return [points[2 * next], points[2 * next + 1]]
}

function arrow(path: Path2D, x: number, y: number, angle: number) {
  const [c, s] = [Math.cos(angle), Math.sin(angle)]
  const to = (u: number, v: number): [number, number] => [x + u * c - v * s, y + u * s + v * c]
  path.moveTo(...to(9, 0))
  path.lineTo(...to(-1, 4.5))
  path.lineTo(...to(1.5, 0))
  path.lineTo(...to(-1, -4.5))
  path.closePath()
}

/** The outlines of what is picked or pointed at, in the colour of picked things. */
export function drawTargets(context: CanvasRenderingContext2D, targets: Target[], eye: Eye, ratio: number, pale: boolean): void {
  Object.assign(context, { strokeStyle: PICK, lineWidth: pale ? 1.5 : 2.2, globalAlpha: pale ? 0.6 : 1, lineJoin: 'round' })
  let points = 0
  for (const { shape, dx, dy } of targets) {
    if (!overlaps(shape, dx, dy, eye.box, 0)) continue
    points += shape.points.length / 2
    const [x, y] = [(shape.box[0] + dx) * eye.scale + eye.x, (shape.box[1] + dy) * eye.scale + eye.y]
    const [w, h] = [(shape.box[2] - shape.box[0]) * eye.scale, (shape.box[3] - shape.box[1]) * eye.scale]
    if (points > MOST_POINTS) context.strokeRect(x, y, w, h)
    else if (Math.max(w, h) < 5) context.strokeRect(x - 4, y - 4, w + 8, h + 8)
    else strokePath(context, pathOf(shape, eye.scale * ratio), eye, ratio, dx, dy)
  }
}

function strokePath(context: CanvasRenderingContext2D, path: Path2D, eye: Eye, ratio: number, dx: number, dy: number) {
  const width = context.lineWidth
  context.save()
  const by = eye.scale * ratio
  context.setTransform(by, 0, 0, by, ratio * (eye.x + dx * eye.scale), ratio * (eye.y + dy * eye.scale))
  context.lineWidth = width / eye.scale
  context.stroke(path)
  context.restore()
}

/** One outline of a shape, or one node, that is picked by itself. */
export function drawPart(context: CanvasRenderingContext2D, target: Target, pick: Pick, eye: Eye): void {
  const { shape, dx, dy } = target
  const to = (x: number, y: number): [number, number] => [(x + dx) * eye.scale + eye.x, (y + dy) * eye.scale + eye.y]
  Object.assign(context, { strokeStyle: PICK, fillStyle: PICK, globalAlpha: 1 })
  if (pick.node !== undefined) {
    const path = new Path2D()
    node(path, ...to(shape.nodes[2 * pick.node], shape.nodes[2 * pick.node + 1]), LARGEST + 1, !!shape.corners[pick.node])
    return context.fill(path)
  }
  const k = target.outlines ? target.outlines.indexOf(pick.outline!) : pick.outline!
  if (k < 0 || k >= shape.closed.length) return
  const path = new Path2D()
  for (let i = shape.start[k]; i < shape.start[k + 1]; i++) path.lineTo(...to(shape.points[2 * i], shape.points[2 * i + 1]))
  context.lineWidth = 3.2
  context.stroke(path)
}

/** A measure between two places, with its figure. */
export function drawMeasure(
  context: CanvasRenderingContext2D,
  a: [number, number],
  b: [number, number],
  eye: Eye,
  text: string,
  flag = false,
): void {
  const to = ([x, y]: [number, number]): [number, number] => [x * eye.scale + eye.x, y * eye.scale + eye.y]
  const [p, q] = [to(a), to(b)]
  Object.assign(context, {
    strokeStyle: flag ? FLAG : INK,
    lineWidth: 1.6,
    globalAlpha: 1,
    font: '700 12.5px "Atkinson Hyperlegible Next Variable", sans-serif',
    textAlign: 'center',
    textBaseline: 'middle',
  })
  context.setLineDash([4, 3])
  context.beginPath()
  context.moveTo(...p)
  context.lineTo(...q)
  context.stroke()
  context.setLineDash([])
  for (const [x, y] of [p, q]) {
    context.beginPath()
    context.arc(x, y, 3, 0, 2 * Math.PI)
    context.fillStyle = PAPER
    context.fill()
    context.stroke()
  }
  if (!text) return
  const [x, y] = [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2 - 16]
  const wide = context.measureText(text).width + 16
  context.fillStyle = flag ? FLAG : INK
  context.beginPath()
  context.roundRect(x - wide / 2, y - 11, wide, 22, 11)
  context.fill()
  context.fillStyle = PAPER
  context.fillText(text, x, y + 0.5)
}

/** The handles of picked pieces: x, y of a node and of its handle's end, one after the other. */
export function drawHandles(context: CanvasRenderingContext2D, handles: Float32Array, eye: Eye): void {
  Object.assign(context, { strokeStyle: PICK, fillStyle: PICK, lineWidth: 1, globalAlpha: 0.9 })
  const lines = new Path2D()
  const ends = new Path2D()
  for (let i = 0; i + 3 < handles.length; i += 4) {
    const [x, y] = [handles[i + 2] * eye.scale + eye.x, handles[i + 3] * eye.scale + eye.y]
    lines.moveTo(handles[i] * eye.scale + eye.x, handles[i + 1] * eye.scale + eye.y)
    lines.lineTo(x, y)
    ends.moveTo(x + 2.2, y)
    ends.arc(x, y, 2.2, 0, 2 * Math.PI)
  }
  context.stroke(lines)
  context.fill(ends)
}

export function drawBand(context: CanvasRenderingContext2D, [left, top, right, bottom]: Box): void {
  Object.assign(context, { strokeStyle: PICK, fillStyle: PICK, lineWidth: 1.2 })
  context.globalAlpha = 0.1
  context.fillRect(left, top, right - left, bottom - top)
  context.globalAlpha = 1
  context.setLineDash([5, 4])
  context.strokeRect(left, top, right - left, bottom - top)
  context.setLineDash([])
}
