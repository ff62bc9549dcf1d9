import type { Draft } from '@/api/drafts'
import { boxOf, type Shape } from '@/api/unpack'
import type { Drawn } from '@/stores/drawing'

type Matrix = NonNullable<Draft['moved']>

function movedPoints(points: Float32Array, [a, b, c, d, e, f]: Matrix): Float32Array {
  const made = new Float32Array(points.length)
  for (let i = 0; i < points.length; i += 2) {
    made[i] = a * points[i] + c * points[i + 1] + e
    made[i + 1] = b * points[i] + d * points[i + 1] + f
  }
  return made
}

function movedShape(shape: Shape, matrix: Matrix): Shape {
  const points = movedPoints(shape.points, matrix)
  return { ...shape, points, nodes: movedPoints(shape.nodes, matrix), box: boxOf(points) }
}

/** A draft of a design that is moved as a whole, with its pieces and their shapes made of those that are drawn. */
export function withMoved(draft: Draft, drawn: Drawn[]): Draft {
  const matrix = draft.moved
  if (!matrix) return draft
  const [a, b, c, d] = matrix
  const wider = Math.sqrt(Math.abs(a * d - b * c))
  const shapes = new Map<string, Shape>()
  const pieces = drawn.map(({ piece, shape }) => {
    const path = `${piece.path} moved`
    if (!shapes.has(path)) shapes.set(path, movedShape(shape, matrix))
    const stroke = piece.stroke && {
      ...piece.stroke,
      width_mm: piece.stroke.width_mm * wider,
      dashes: piece.stroke.dashes.map((dash) => dash * wider),
    }
    return { ...piece, path, stroke }
  })
  return { ...draft, pieces, order: pieces.map((piece) => piece.id), shapes }
}
