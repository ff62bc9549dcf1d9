import type { Shape } from '@/api/unpack'

import { paint } from './paint'
import type { Camera, Item } from './scene'

/** What a board tells its painter: what there is, only as far as it changed; and what to paint. */
export type ToPainter =
  | { kind: 'scene'; items: Item[]; fresh: [string, Shape][]; gone: string[] }
  | { kind: 'paint'; camera: Camera; number: number }

/** A picture, the number it was asked for by, and how long it took. */
export interface FromPainter {
  bitmap: ImageBitmap
  number: number
  spent: number
}

const shapes = new Map<string, Shape>()
let items: Item[] = []

self.onmessage = ({ data }: MessageEvent<ToPainter>) => {
  if (data.kind === 'scene') {
    for (const key of data.gone) shapes.delete(key)
    for (const [key, shape] of data.fresh) shapes.set(key, shape)
    items = data.items
    return
  }
  const begin = performance.now()
  const { camera, number } = data
  const canvas = new OffscreenCanvas(Math.ceil(camera.width * camera.ratio), Math.ceil(camera.height * camera.ratio))
  paint(canvas.getContext('2d')!, { items, shapes }, camera)
  const bitmap = canvas.transferToImageBitmap()
  self.postMessage({ bitmap, number, spent: performance.now() - begin } satisfies FromPainter, { transfer: [bitmap] })
}
