import type { Shape } from '@/api/unpack'

import { painting } from './paint'
import type { Camera, Item } from './scene'

/** What a board tells its painter: what there is, only as far as it changed; and what to paint. */
export type ToPainter =
  { kind: 'scene'; items: Item[]; fresh: [string, Shape][]; gone: string[] } | { kind: 'paint'; camera: Camera; number: number }

/** A picture, the number it was asked for by, and how long it took; without a picture, that it was given up for a newer
 * one. */
export interface FromPainter {
  bitmap: ImageBitmap | null
  number: number
  spent: number
}

/** How long the painter paints, in ms, before it looks up for a newer wish; and it gives up for that only what is less
 * done than this share, and never twice in a row, so that something is shown while a hand goes on moving. */
const UNTIL_LOOK_MS = 24
const GIVE_UP_BELOW = 0.6

const shapes = new Map<string, Shape>()
let items: Item[] = []
let newest: { camera: Camera; number: number } | null = null
let busy = false
let gaveUp = false

const looked = new MessageChannel()
let goOn: () => void = () => {}
looked.port1.onmessage = () => goOn()
/** Lets messages that wait come in. */
const lookUp = () =>
  new Promise<void>((done) => {
    goOn = done
    looked.port2.postMessage(0)
  })

self.onmessage = ({ data }: MessageEvent<ToPainter>) => {
  if (data.kind === 'scene') {
    for (const key of data.gone) shapes.delete(key)
    for (const [key, shape] of data.fresh) shapes.set(key, shape)
    items = data.items
    return
  }
  newest = data
  if (!busy) void work()
}

async function work() {
  busy = true
  // Wishes that came while something was painted wait in a row: only the newest of them counts.
  for (await lookUp(); newest; await lookUp()) {
    const asked: { camera: Camera; number: number } = newest
    newest = null
    const begin = performance.now()
    const bitmap = await painted(asked.camera)
    const answer: FromPainter = { bitmap, number: asked.number, spent: performance.now() - begin }
    self.postMessage(answer, { transfer: bitmap ? [bitmap] : [] })
  }
  busy = false
}

async function painted(camera: Camera): Promise<ImageBitmap | null> {
  const canvas = new OffscreenCanvas(Math.ceil(camera.width * camera.ratio), Math.ceil(camera.height * camera.ratio))
  let looked = performance.now()
  for (const share of painting(canvas.getContext('2d')!, { items, shapes }, camera)) {
    if (performance.now() - looked < UNTIL_LOOK_MS) continue
    await lookUp()
    looked = performance.now()
    if (newest && share < GIVE_UP_BELOW && !gaveUp) {
      gaveUp = true
      return null
    }
  }
  gaveUp = false
  return canvas.transferToImageBitmap()
}
