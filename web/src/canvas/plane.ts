/** A map of the plane, three by three, row by row. */
export type Plane = [number, number, number, number, number, number, number, number, number]

export function through(m: Plane, x: number, y: number): [number, number] {
  const w = m[6] * x + m[7] * y + m[8]
  return [(m[0] * x + m[1] * y + m[2]) / w, (m[3] * x + m[4] * y + m[5]) / w]
}

export function inverted(m: Plane): Plane {
  const [a, b, c, d, e, f, g, h, i] = m
  const [A, B, C] = [e * i - f * h, c * h - b * i, b * f - c * e]
  const det = a * A + d * B + g * C
  return [A, B, C, f * g - d * i, a * i - c * g, c * d - a * f, d * h - e * g, b * g - a * h, a * e - b * d].map((v) => v / det) as Plane
}

/** As a style's transform of an element whose pixels it maps; then scaled and shifted. */
export function asTransform(m: Plane, scale: number, x: number, y: number): string {
  const [a, b, c, d, e, f, g, h, i] = m
  const px = [scale * a + x * g, scale * b + x * h, scale * c + x * i]
  const py = [scale * d + y * g, scale * e + y * h, scale * f + y * i]
  return `matrix3d(${[px[0], py[0], 0, g, px[1], py[1], 0, h, 0, 0, 1, 0, px[2], py[2], 0, i].join(',')})`
}
