type Place = [number, number]

/** Where a node that is dragged comes to rest, and the lines that say why. */
export interface Snapped {
  at: Place
  guides: [Place, Place][]
}

/** A place that is near another node, or level with one, or with where the drag began: there. null where it is near
 * none. reach: in mm. */
export function snappedTo(to: Place, start: Place, others: Place[], reach: number): Snapped | null {
  let best: Place | null = null
  let least = reach
  for (const other of others) {
    const away = Math.hypot(other[0] - to[0], other[1] - to[1])
    if (away < least) [best, least] = [other, away]
  }
  if (best) return { at: [...best], guides: [] }
  const at: Place = [...to]
  const guides: [Place, Place][] = []
  for (const axis of [0, 1] as const) {
    let level: Place | null = null
    let off = reach / 2
    for (const other of [start, ...others]) {
      const away = Math.abs(other[axis] - to[axis])
      if (away < off) [level, off] = [other, away]
    }
    if (level) {
      at[axis] = level[axis]
      guides.push([level, at])
    }
  }
  return guides.length ? { at, guides } : null
}
