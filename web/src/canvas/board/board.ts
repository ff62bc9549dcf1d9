import { paint, pointsSeen } from './paint'
import { boxOfScene, sameCamera, whole, widened, type Camera, type Scene } from './scene'
import type { FromPainter, ToPainter } from './worker'

/** A frame's share that painting may take, in ms: what would take longer is painted aside and moved meanwhile. */
const FRAME_MS = 12
/** What a point is taken to cost, in ms, until frames have told. */
const POINT_MS = 3e-4
/** How much of what a frame tells is believed at once. */
const BELIEVED = 0.3
/** Pictures painted aside reach so far beyond the view, as a share of its sides. */
const AROUND = 0.2
const COARSE_PX = 1000
/** So many points at most are painted at once for a first picture: a third of a second of work, or less. */
const MOST_AT_FIRST = 150_000

/** A picture in the page: its canvas, and the camera it was taken with. */
class Picture {
  readonly canvas = document.createElement('canvas')
  camera: Camera | null = null

  constructor(host: HTMLElement, name: string) {
    this.canvas.className = name
    Object.assign(this.canvas.style, { position: 'absolute', left: '0', top: '0', transformOrigin: '0 0', willChange: 'transform' })
    host.append(this.canvas)
    this.hide()
  }

  hide(): void {
    this.canvas.style.visibility = 'hidden'
  }

  /** Puts a painted bitmap in place of what was there. */
  take(bitmap: ImageBitmap, camera: Camera): void {
    this.canvas.width = bitmap.width
    this.canvas.height = bitmap.height
    this.canvas.getContext('bitmaprenderer')!.transferFromImageBitmap(bitmap)
    this.canvas.style.width = `${camera.width}px`
    this.canvas.style.height = `${camera.height}px`
    this.camera = camera
  }

  /** Moves the picture to where its plane lies for another camera. */
  follow(camera: Camera): void {
    const own = this.camera
    if (!own) return this.hide()
    const by = camera.scale / own.scale
    this.canvas.style.transform = `translate(${camera.x - own.x * by}px, ${camera.y - own.y * by}px) scale(${by})`
    this.canvas.style.visibility = 'visible'
  }

  /** Whether the picture, moved, covers all that a camera sees. */
  covers(camera: Camera): boolean {
    const own = this.camera
    if (!own) return false
    const by = camera.scale / own.scale
    const [x, y] = [camera.x - own.x * by, camera.y - own.y * by]
    return x <= 0 && y <= 0 && x + own.width * by >= camera.width && y + own.height * by >= camera.height
  }
}

interface Asked {
  number: number
  camera: Camera
  version: number
  points: number
  coarse: boolean
}

/** Shows a scene through a camera, in every frame: painted at once where that is quick; else by a painter aside, whose
 * last picture is moved until the next is there, over a coarse one of everything. How quick it is, frames tell. */
export class Board {
  private readonly coarse: Picture
  private readonly sharp: Picture
  private readonly direct: Picture
  private readonly context: CanvasRenderingContext2D
  private scene: Scene = { items: [], shapes: new Map() }
  private camera: Camera | null = null
  private pointMs = POINT_MS
  private frame = 0
  private painter: Worker | null = null
  private readonly sent = new Set<string>()
  /** Counts up with each scene; the one that the painter has, the sharp and the coarse picture show. */
  private version = 0
  private told = -1
  private sharpOf = -1
  private coarseOf = -1
  /** What is under way, the newest last: one that is asked for meanwhile may take its place. */
  private asked: Asked[] = []
  private number = 0
  /** Whether the painter aside could not be had: then everything is painted here, however long it takes. */
  private alone = false
  /** Whether anything has been shown. */
  private begun = false

  constructor(private readonly host: HTMLElement) {
    this.coarse = new Picture(host, 'coarse')
    this.sharp = new Picture(host, 'sharp')
    this.direct = new Picture(host, 'direct')
    this.context = this.direct.canvas.getContext('2d')!
  }

  show(scene: Scene): void {
    this.scene = scene
    this.version++
    this.wake()
  }

  look(camera: Camera): void {
    if (sameCamera(camera, this.camera)) return
    this.camera = camera
    this.wake()
  }

  destroy(): void {
    cancelAnimationFrame(this.frame)
    this.painter?.terminate()
    this.host.replaceChildren()
  }

  private wake(): void {
    this.say('waiting')
    if (!this.frame) this.frame = requestAnimationFrame(() => this.draw())
  }

  /** What is on the screen: tests and measurements read it. */
  private say(state: 'waiting' | 'moved' | 'sharp'): void {
    this.host.dataset.state = state
  }

  private draw(): void {
    this.frame = 0
    const camera = this.camera
    if (!camera || camera.width < 1 || camera.height < 1) return
    const points = pointsSeen(this.scene, camera)
    const quick = this.alone || points * this.pointMs <= FRAME_MS
    // The first picture is painted at once where that can be waited for: nothing moves yet.
    if (quick || (!this.begun && points <= MOST_AT_FIRST)) {
      this.drawDirect(camera, points)
      if (!quick) this.ask(camera)
      return
    }
    this.direct.hide()
    const fresh = this.sharpOf === this.version
    if (fresh && sameCamera(this.sharp.camera, widened(camera, AROUND))) {
      this.sharp.follow(camera)
      this.coarse.hide()
      this.say('sharp')
      if (this.coarseOf !== this.version) this.ask(null)
      return
    }
    this.sharp.follow(camera)
    if (this.sharp.covers(camera)) this.coarse.hide()
    else this.coarse.follow(camera)
    this.say('moved')
    this.ask(camera)
  }

  private drawDirect(camera: Camera, points: number): void {
    const { canvas } = this.direct
    const [width, height] = [Math.ceil(camera.width * camera.ratio), Math.ceil(camera.height * camera.ratio)]
    if (canvas.width !== width || canvas.height !== height) {
      Object.assign(canvas, { width, height })
      Object.assign(canvas.style, { width: `${camera.width}px`, height: `${camera.height}px` })
    }
    const begin = performance.now()
    paint(this.context, this.scene, camera)
    this.learn((performance.now() - begin) / Math.max(points, 2000))
    this.begun = true
    this.direct.camera = camera
    this.direct.follow(camera)
    this.sharp.hide()
    this.coarse.hide()
    this.say('sharp')
  }

  private learn(pointMs: number): void {
    this.pointMs += BELIEVED * (pointMs - this.pointMs)
  }

  /** Asks the painter for the view, or for the coarse picture of everything once nothing else is to be painted. */
  private ask(camera: Camera | null): void {
    const last = this.asked.at(-1)
    if (!camera && last) return
    const box = camera ? null : boxOfScene(this.scene)
    const wanted = camera ? widened(camera, AROUND) : box && whole(box, COARSE_PX)
    if (!wanted || (last && last.version === this.version && sameCamera(last.camera, wanted))) return
    const painter = this.awake()
    if (this.told !== this.version) this.tell(painter)
    this.asked.push({
      number: ++this.number,
      camera: wanted,
      version: this.version,
      points: pointsSeen(this.scene, wanted),
      coarse: !camera,
    })
    painter.postMessage({ kind: 'paint', camera: wanted, number: this.number } satisfies ToPainter)
  }

  private awake(): Worker {
    if (this.painter) return this.painter
    this.painter = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module', name: 'painter' })
    this.painter.onerror = () => {
      this.alone = true
      this.asked = []
      this.wake()
    }
    this.painter.onmessage = ({ data }: MessageEvent<FromPainter>) => this.got(data)
    return this.painter
  }

  private tell(painter: Worker): void {
    const wanted = new Set(this.scene.items.map((item) => item.shape))
    const fresh = [...wanted].filter((key) => !this.sent.has(key) && this.scene.shapes.has(key))
    const gone = [...this.sent].filter((key) => !wanted.has(key))
    const shapes = fresh.map((key) => [key, this.scene.shapes.get(key)!] as [string, never])
    painter.postMessage({ kind: 'scene', items: this.scene.items, fresh: shapes, gone } satisfies ToPainter)
    for (const key of fresh) this.sent.add(key)
    for (const key of gone) this.sent.delete(key)
    this.told = this.version
  }

  private got({ bitmap, number, spent }: FromPainter): void {
    const asked = this.asked.find((one) => one.number === number)
    // Those asked for before it were passed over.
    this.asked = this.asked.filter((one) => one.number > number)
    if (!asked || !bitmap) return bitmap?.close()
    if (asked.coarse) {
      this.coarse.take(bitmap, asked.camera)
      this.coarse.hide()
      this.coarseOf = asked.version
    } else {
      this.learn(spent / Math.max(asked.points, 2000))
      this.sharp.take(bitmap, asked.camera)
      this.sharpOf = asked.version
      this.begun = true
    }
    this.draw()
  }
}
