import { defineStore } from 'pinia'
import { computed, shallowReactive, shallowRef } from 'vue'

import { client, fetchBytes, want } from '@/api/client'
import type { Drawing, Layer, Piece } from '@/api/types'
import { unpackPaths, type Shape } from '@/api/unpack'

import { useJob } from './job'

/** A piece with what it is drawn from. */
export interface Drawn {
  piece: Piece
  layer: Layer
  shape: Shape
}

/** A document as it is drawn. */
export interface Plan {
  document: string
  drawing: Drawing
  drawn: Drawn[]
}

/** The document on the bench, and those that it is compared with. Paths are kept by their hash: only what is new is
 * fetched. */
export const useDrawing = defineStore('drawing', () => {
  const plans = shallowReactive(new Map<string, Plan>())
  const shown = shallowRef('')
  const shapes = new Map<string, Shape>()
  let wanted = ''

  /** The jobs that documents are of, where that is not the one on the bench. */
  const owners = new Map<string, string>()
  /** Where a document is found: its job and its hash. */
  const at = (document: string) => ({ job: owners.get(document) ?? useJob().job?.id ?? '', document })

  async function fetched(document: string): Promise<Plan> {
    const known = plans.get(document)
    if (known) return known
    const params = { path: at(document) }
    const since = shown.value ? `?since=${shown.value}` : ''
    const paths = `/api/jobs/${params.path.job}/documents/${document}/paths`
    const [drawing, bytes] = await Promise.all([
      want(client.GET('/api/jobs/{job}/documents/{document}/drawing', { params })),
      fetchBytes(paths + since),
    ])
    const take = (packed: ArrayBuffer) => unpackPaths(packed).forEach((shape, hash) => shapes.set(hash, shape))
    take(bytes)
    // What was here when they were asked for may have gone meanwhile, with the document that it was of.
    if (since && drawing.pieces.some((piece) => !shapes.has(piece.path))) take(await fetchBytes(paths))
    const layers = new Map(drawing.layers.map((layer) => [layer.id, layer]))
    const drawn = drawing.pieces.flatMap((piece) => {
      const shape = shapes.get(piece.path)
      return shape ? [{ piece, layer: layers.get(piece.layer)!, shape }] : []
    })
    return { document, drawing, drawn }
  }

  async function load(document: string) {
    wanted = document
    if (document === shown.value) return
    const plan = await fetched(document)
    // Only the newest wish is painted.
    if (wanted !== document) return
    plans.set(document, plan)
    shown.value = document
    keep()
  }

  /** One more document beside the one on the bench, to compare it with; `keep` names those still wanted. */
  async function beside(document: string, job = ''): Promise<void> {
    if (job) owners.set(document, job)
    if (document && !plans.has(document)) plans.set(document, await fetched(document))
  }

  /** Lets go of all documents but the one on the bench and those named. */
  function keep(...others: string[]) {
    for (const document of plans.keys()) {
      if (document !== shown.value && !others.includes(document)) plans.delete(document)
    }
    const used = new Set([...plans.values()].flatMap((plan) => plan.drawing.pieces.map((piece) => piece.path)))
    for (const hash of shapes.keys()) if (!used.has(hash)) shapes.delete(hash)
  }

  function clear() {
    wanted = shown.value = ''
    plans.clear()
    shapes.clear()
    owners.clear()
  }

  const plan = computed(() => plans.get(shown.value) ?? null)
  const drawing = computed(() => plan.value?.drawing ?? null)
  const drawn = computed(() => plan.value?.drawn ?? [])

  /** What is seen of a document: without what is left out or hidden. */
  function seenOf(document: string): Drawn[] {
    const job = useJob()
    const layers = job.head?.settings.layers ?? {}
    const pieces = job.head?.settings.pieces ?? {}
    const now = plans.get(document)
    if (!now) return []
    return now.drawn.filter(({ piece, layer }) => layer.treatment !== 'leave-out' && !layers[layer.id]?.hidden && !pieces[piece.id]?.hidden)
  }
  const inUse = computed(() => seenOf(shown.value))
  return { at, plans, plan, drawing, shown, drawn, inUse, shapes, load, beside, keep, seenOf, clear }
})
