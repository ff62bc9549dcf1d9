import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'

import { client, want } from '@/api/client'
import type { Drawing, Layer, Piece } from '@/api/types'
import { shapeOf, type Shape } from '@/api/unpack'

/** A piece with what it is drawn from. */
export interface Drawn {
  piece: Piece
  layer: Layer
  shape: Shape
}

/** The document on the bench as it is drawn. Paths are kept by their hash: only what is new is fetched. */
export const useDrawing = defineStore('drawing', () => {
  const drawing = shallowRef<Drawing | null>(null)
  const shown = shallowRef('')
  const shapes = new Map<string, Shape>()
  let wanted = ''

  async function load(document: string) {
    wanted = document
    if (document === shown.value) return
    const query = shown.value ? { since: shown.value } : undefined
    const next = await want(
      client.GET('/api/documents/{document}/drawing', { params: { path: { document }, query } }),
    )
    // Only the newest wish is painted.
    if (wanted !== document) return
    for (const [hash, path] of Object.entries(next.paths)) shapes.set(hash, shapeOf(path))
    const used = new Set(next.pieces.map((piece) => piece.path))
    for (const hash of shapes.keys()) if (!used.has(hash)) shapes.delete(hash)
    drawing.value = next
    shown.value = document
  }

  function clear() {
    wanted = shown.value = ''
    drawing.value = null
    shapes.clear()
  }

  const drawn = computed<Drawn[]>(() => {
    const now = drawing.value
    if (!now) return []
    const layers = new Map(now.layers.map((layer) => [layer.id, layer]))
    return now.pieces.map((piece) => ({ piece, layer: layers.get(piece.layer)!, shape: shapes.get(piece.path)! }))
  })
  const inUse = computed(() => drawn.value.filter((d) => d.layer.treatment !== 'leave-out'))
  return { drawing, shown, drawn, inUse, load, clear }
})
