import type { TracePreview } from '@/api/previews'

/** What lies at a place of a trace: a piece, or a hollow of one. */
export interface Hit {
  part: number
  hollow: boolean
}

/** The pieces of a preview as places to be clicked. Places are in mm. */
export class Regions {
  /** The first outline of each piece, and of none. */
  readonly first: number[] = [0]
  private readonly boxes: Float32Array

  constructor(readonly shown: TracePreview) {
    for (const [, , count] of shown.parts) this.first.push(this.first.at(-1)! + count)
    const { points, start } = shown
    this.boxes = new Float32Array(4 * (start.length - 1))
    for (let k = 0; k + 1 < start.length; k++) {
      let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity]
      for (let i = start[k]; i < start[k + 1]; i++) {
        left = Math.min(left, points[2 * i])
        right = Math.max(right, points[2 * i])
        top = Math.min(top, points[2 * i + 1])
        bottom = Math.max(bottom, points[2 * i + 1])
      }
      this.boxes.set([left, top, right, bottom], 4 * k)
    }
  }

  outlines(part: number): number[] {
    return Array.from({ length: this.first[part + 1] - this.first[part] }, (_, i) => this.first[part] + i)
  }

  /** The smallest piece at a place, else the smallest hollow; of single lines the nearest within reach. */
  at(x: number, y: number, reach: number): Hit | null {
    let piece: Hit | null = null
    let hollow: Hit | null = null
    let [least, leastHollow, nearest] = [Infinity, Infinity, reach]
    for (let part = 0; part < this.shown.parts.length; part++) {
      const lines = this.shown.layers[this.shown.parts[part][1]].lines
      let inside = false
      let inner = Infinity
      for (let k = this.first[part]; k < this.first[part + 1]; k++) {
        if (lines) {
          const off = this.off(k, x, y, nearest)
          if (off < nearest) [piece, nearest] = [{ part, hollow: false }, off]
        } else if (this.contains(k, x, y)) {
          inside = !inside
          inner = Math.min(inner, this.size(k))
        }
      }
      if (inside) {
        const size = Math.max(...this.outlines(part).map((k) => this.size(k)))
        if (size < least) [piece, least] = [{ part, hollow: false }, size]
      } else if (inner < leastHollow) [hollow, leastHollow] = [{ part, hollow: true }, inner]
    }
    return piece ?? hollow
  }

  private size(k: number): number {
    return (this.boxes[4 * k + 2] - this.boxes[4 * k]) * (this.boxes[4 * k + 3] - this.boxes[4 * k + 1])
  }

  private near(k: number, x: number, y: number, by: number): boolean {
    const box = this.boxes
    return x >= box[4 * k] - by && x <= box[4 * k + 2] + by && y >= box[4 * k + 1] - by && y <= box[4 * k + 3] + by
  }

  private contains(k: number, x: number, y: number): boolean {
    if (!this.near(k, x, y, 0)) return false
    const { points, start } = this.shown
    let inside = false
    for (let i = start[k], j = start[k + 1] - 1; i < start[k + 1]; j = i++) {
      const [xi, yi, xj, yj] = [points[2 * i], points[2 * i + 1], points[2 * j], points[2 * j + 1]]
      if (yi > y !== yj > y && x < ((xj - xi) * (y - yi)) / (yj - yi) + xi) inside = !inside
    }
    return inside
  }

  /** How far a place is off a line; as much as `most` where it is farther. */
  private off(k: number, x: number, y: number, most: number): number {
    if (!this.near(k, x, y, most)) return most
    const { points, start } = this.shown
    let least = most
    for (let i = start[k]; i + 1 < start[k + 1]; i++) {
      const [ax, ay] = [points[2 * i], points[2 * i + 1]]
      const [dx, dy] = [points[2 * i + 2] - ax, points[2 * i + 3] - ay]
      const t = Math.min(Math.max(((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1), 0), 1)
      least = Math.min(least, Math.hypot(x - ax - t * dx, y - ay - t * dy))
    }
    return least
  }
}
