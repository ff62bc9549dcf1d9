import type { Shape } from '@/api/unpack'

/** Left, top, right, bottom in mm. */
export type Box = [number, number, number, number]

/** One thing to paint. shape: the key of its shape. Lengths are in mm; width and dashes in pixels of the screen where
 * `screen` says so. dx, dy: how far it is drawn from where it lies. shade: whether it throws a shadow, as what is lifted
 * does. */
export interface Item {
  shape: string
  fill?: string
  fillAlpha?: number
  rule?: CanvasFillRule
  stroke?: string
  strokeAlpha?: number
  width?: number
  screen?: boolean
  dashes?: number[]
  cap?: CanvasLineCap
  join?: CanvasLineJoin
  miter?: number
  alpha?: number
  dx?: number
  dy?: number
  shade?: boolean
}

/** What is painted, in paint order, lowest first. */
export interface Scene {
  items: Item[]
  shapes: ReadonlyMap<string, Shape>
}

/** Where the plane lies in a picture: a place p in mm is at p * scale + x or y, in CSS pixels; ratio: device pixels to
 * each. */
export interface Camera {
  scale: number
  x: number
  y: number
  width: number
  height: number
  ratio: number
}

export const sameCamera = (a: Camera | null, b: Camera | null) =>
  a === b ||
  (!!a && !!b && a.scale === b.scale && a.x === b.x && a.y === b.y && a.width === b.width && a.height === b.height && a.ratio === b.ratio)

/** The part of the plane that a camera sees, in mm. */
export function seen({ scale, x, y, width, height }: Camera): Box {
  return [-x / scale, -y / scale, (width - x) / scale, (height - y) / scale]
}

/** The same picture with a share of its sides more all round. */
export function widened(camera: Camera, share: number): Camera {
  const [dx, dy] = [Math.round(camera.width * share), Math.round(camera.height * share)]
  return { ...camera, x: camera.x + dx, y: camera.y + dy, width: camera.width + 2 * dx, height: camera.height + 2 * dy }
}

/** A picture of a whole box, its longer side so many pixels. */
export function whole([left, top, right, bottom]: Box, longest: number): Camera {
  const scale = longest / Math.max(right - left, bottom - top, 1e-6)
  const room = 8
  return {
    scale,
    x: room - left * scale,
    y: room - top * scale,
    width: Math.ceil((right - left) * scale) + 2 * room,
    height: Math.ceil((bottom - top) * scale) + 2 * room,
    ratio: 1,
  }
}

/** Whether any of an item may be in a box; how far strokes and mitres reach is allowed for. */
export function touches(item: Item, shape: Shape, [left, top, right, bottom]: Box, scale: number): boolean {
  const [dx, dy] = [item.dx ?? 0, item.dy ?? 0]
  const reach = item.shade ? 12 / scale : (item.width ?? 0) * (item.screen ? 1 / scale : (item.miter ?? 1)) + 1 / scale
  const box = shape.box
  return box[0] + dx - reach <= right && box[2] + dx + reach >= left && box[1] + dy - reach <= bottom && box[3] + dy + reach >= top
}

/** The box of all items where they are drawn, or null where there is nothing. */
export function boxOfScene(scene: Scene): Box | null {
  const all: Box = [Infinity, Infinity, -Infinity, -Infinity]
  for (const item of scene.items) {
    const box = scene.shapes.get(item.shape)?.box
    if (!box) continue
    const [dx, dy] = [item.dx ?? 0, item.dy ?? 0]
    all[0] = Math.min(all[0], box[0] + dx)
    all[1] = Math.min(all[1], box[1] + dy)
    all[2] = Math.max(all[2], box[2] + dx)
    all[3] = Math.max(all[3], box[3] + dy)
  }
  return all[0] <= all[2] ? all : null
}
