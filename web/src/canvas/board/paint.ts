import { pathOf, pointsAt } from './paths'
import { seen, touches, type Camera, type Item, type Scene } from './scene'

type Context = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D

/** Lines of a picture with more points than this are drawn as fine as the screen can, which takes a sixth of the time; so
 * close together they would run into each other otherwise. */
const MANY_POINTS = 15_000
const HAIR_PX = 1

/** How many points a picture takes, about: what painting it costs goes with that. */
export function pointsSeen(scene: Scene, camera: Camera): number {
  const box = seen(camera)
  let points = 0
  for (const item of scene.items) {
    const shape = scene.shapes.get(item.shape)
    if (shape && touches(item, shape, box, camera.scale)) points += pointsAt(shape, camera.scale)
  }
  return points
}

/** Paints all of a scene that a camera sees; the picture is cleared first. */
export function paint(context: Context, scene: Scene, camera: Camera): void {
  const work = painting(context, scene, camera)
  while (!work.next().done);
}

/** The same item by item, for a painter that looks up from time to time; it gives the share that is done. */
export function* painting(context: Context, scene: Scene, camera: Camera): Generator<number, void> {
  const { scale, ratio } = camera
  context.setTransform(1, 0, 0, 1, 0, 0)
  context.clearRect(0, 0, context.canvas.width, context.canvas.height)
  const box = seen(camera)
  const fine = pointsSeen(scene, camera) > MANY_POINTS
  for (let i = 0; i < scene.items.length; i++) {
    const item = scene.items[i]
    const shape = scene.shapes.get(item.shape)
    if (!shape || !touches(item, shape, box, scale)) continue
    const [dx, dy] = [item.dx ?? 0, item.dy ?? 0]
    context.setTransform(ratio * scale, 0, 0, ratio * scale, ratio * (camera.x + dx * scale), ratio * (camera.y + dy * scale))
    const path = pathOf(shape, scale * ratio)
    if (item.fill) fill(context, path, item, ratio)
    if (item.stroke) stroke(context, path, item, scale, fine)
    yield i / scene.items.length
  }
}

function fill(context: Context, path: Path2D, item: Item, ratio: number): void {
  context.globalAlpha = (item.fillAlpha ?? 1) * (item.alpha ?? 1)
  context.fillStyle = item.fill!
  if (item.shade) {
    context.shadowColor = 'rgb(27 42 78 / 0.45)'
    context.shadowBlur = 8 * ratio
    context.shadowOffsetX = 2 * ratio
    context.shadowOffsetY = 4 * ratio
  }
  context.fill(path, item.rule ?? 'nonzero')
  if (item.shade) context.shadowColor = 'transparent'
}

function stroke(context: Context, path: Path2D, item: Item, scale: number, fine: boolean): void {
  const unit = item.screen ? 1 / scale : 1
  const width = fine && item.screen && item.width! < 2 ? HAIR_PX : (item.width ?? 1)
  context.globalAlpha = (item.strokeAlpha ?? 1) * (item.alpha ?? 1)
  context.strokeStyle = item.stroke!
  context.lineWidth = width * unit
  context.lineCap = item.cap ?? 'round'
  context.lineJoin = item.join ?? 'round'
  context.miterLimit = item.miter ?? 4
  context.setLineDash((item.dashes ?? []).map((length) => length * unit))
  context.stroke(path)
}
