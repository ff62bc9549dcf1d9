type Place = [number, number]

/** Half the length of the ticks at the ends of a dimension line, in pixels. */
const TICK_PX = 6
/** The label stands so far from a line that is shorter than this. */
const SHORT_PX = 70
const BESIDE_PX = 20

/** A dimension as it is drawn: a line of path data, and where the middle of its label is. ends: on the screen. */
export function drawnDimension(kind: string, ends: Place[]): { line: string; at: Place } {
  return kind === 'angle' ? arc(ends) : straight(ends, kind === 'radius')
}

function straight([one, other]: Place[], fromCentre: boolean): { line: string; at: Place } {
  const [dx, dy] = [other[0] - one[0], other[1] - one[1]]
  const size = Math.hypot(dx, dy) || 1
  const across: Place = [-dy / size, dx / size]
  const tick = ([x, y]: Place) =>
    `M${x - across[0] * TICK_PX} ${y - across[1] * TICK_PX}L${x + across[0] * TICK_PX} ${y + across[1] * TICK_PX}`
  const line = `M${one.join(' ')}L${other.join(' ')}${fromCentre ? '' : tick(one)}${tick(other)}`
  const by = size < SHORT_PX ? BESIDE_PX : 0
  // Beside is above, or to the right of an upright one.
  const side = across[1] > 0.01 || (Math.abs(across[1]) <= 0.01 && across[0] < 0) ? -1 : 1
  return { line, at: [(one[0] + other[0]) / 2 + side * across[0] * by, (one[1] + other[1]) / 2 + side * across[1] * by] }
}

function arc([corner, one, other]: Place[]): { line: string; at: Place } {
  const turn = ([x, y]: Place) => Math.atan2(y - corner[1], x - corner[0])
  const [a, b] = [turn(one), turn(other)]
  const sweep = ((b - a + 3 * Math.PI) % (2 * Math.PI)) - Math.PI
  const reach = Math.min(Math.hypot(one[0] - corner[0], one[1] - corner[1]), Math.hypot(other[0] - corner[0], other[1] - corner[1]), 40)
  const at = (angle: number, far: number): Place => [corner[0] + far * Math.cos(angle), corner[1] + far * Math.sin(angle)]
  const line = `M${at(a, reach).join(' ')}A${reach} ${reach} 0 0 ${sweep > 0 ? 1 : 0} ${at(b, reach).join(' ')}M${corner.join(' ')}L${at(a, reach).join(' ')}M${corner.join(' ')}L${at(b, reach).join(' ')}`
  return { line, at: at(a + sweep / 2, reach + BESIDE_PX) }
}
