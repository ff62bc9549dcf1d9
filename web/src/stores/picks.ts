import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'

import { client, Refused, want } from '@/api/client'
import type { Reading } from '@/api/types'
import type { Hit, Target } from '@/canvas/picker'

import { useDrawing, type Drawn } from './drawing'
import { useJob } from './job'

export type Level = 'piece' | 'outline' | 'node'
export type Way = 'only' | 'add' | 'away'

/** A piece, one of its outlines, or one of its nodes, by their numbers. */
export interface Pick {
  piece: string
  outline?: number
  node?: number
}

export const keyOf = ({ piece, outline, node }: Pick) => `${piece}#${outline ?? ''}@${node ?? ''}`

/** What ids of pieces hold that mean the same however they change (core: model/ids.py). */
const LASTING = ':='
/** Sizes within this share of each other are alike. */
const ALIKE = 0.02
/** Figures are asked for when the hand has rested so long, in ms. */
const RESTED_MS = 120
/** More than this many are not measured together. */
const MOST_READ = 4000

export type Likeness = 'colour' | 'layer' | 'size' | 'kind' | 'inside' | 'others'

/** What is picked on the bench; the same in the list and on the work, and kept from step to step as far as it is there. */
export const usePicks = defineStore('picks', () => {
  const drawing = useDrawing()
  const job = useJob()
  const level = ref<Level>('piece')
  const picks = shallowRef<Pick[]>([])
  /** The outline under the last click, whatever was picked by it. */
  const touched = shallowRef<Pick | null>(null)
  const hovered = shallowRef<Pick | null>(null)
  const reading = shallowRef<Reading | null>(null)
  const touchedReading = shallowRef<Reading | null>(null)
  const problem = ref('')

  const byId = computed(() => new Map(drawing.drawn.map((one) => [one.piece.id, one])))
  const keys = computed(() => new Set(picks.value.map(keyOf)))
  const pieces = computed(() => [...new Set(picks.value.map((pick) => pick.piece))])
  const pickedPieces = computed(() => new Set(pieces.value))
  const locked = (one: Drawn) => {
    const { layers, pieces: own } = job.head?.settings ?? {}
    return !!layers?.[one.layer.id]?.locked || !!own?.[one.piece.id]?.locked
  }
  const free = computed(() => drawing.inUse.filter((one) => !locked(one)))

  function take(some: Pick[], way: Way) {
    const given = new Set(some.map(keyOf))
    const others = way === 'only' ? [] : picks.value.filter((pick) => !given.has(keyOf(pick)))
    // One thing alone that is picked already is let go of when it is added again.
    const again = way === 'add' && some.length === 1 && keys.value.has(keyOf(some[0]))
    picks.value = way === 'away' || again ? others : [...others, ...some]
  }

  const all = (some: Drawn[]) => some.map(({ piece }) => ({ piece: piece.id }))

  /** What a click on something under the pointer picks, at the level that is set. */
  function pickOf(hit: Hit, node: number | null): Pick {
    const piece = hit.target.drawn.piece.id
    if (level.value === 'node' && node !== null) return { piece, node }
    return level.value === 'piece' || hit.distance === Infinity ? { piece } : { piece, outline: hit.outline }
  }

  /** A click on some things, the likeliest first; clicking on and on in one place reaches what lies under. */
  let under = 0
  let where: [number, number] | null = null
  function click(hits: Hit[], node: number | null, at: [number, number], way: Way) {
    const same = !!where && Math.hypot(where[0] - at[0], where[1] - at[1]) < 4
    under = same && way === 'only' && hits.length > 1 ? (under + 1) % hits.length : 0
    where = at
    const hit = hits[under]
    touched.value = hit && hit.distance < Infinity ? { piece: hit.target.drawn.piece.id, outline: hit.outline } : null
    if (hit) take([pickOf(hit, node)], way)
    else if (way === 'only') clear()
  }

  function band(targets: Target[], way: Way) {
    touched.value = null
    take(
      [...new Set(targets.map((target) => target.drawn.piece.id))].map((piece) => ({ piece })),
      way,
    )
  }

  function clear() {
    picks.value = []
    touched.value = null
  }

  /** All pieces that are like those picked. */
  function alike(how: Likeness): Drawn[] {
    const own = pieces.value.flatMap((id) => byId.value.get(id) ?? [])
    return free.value.filter((one) => LIKE[how](one, own, pickedPieces.value))
  }
  const pickAlike = (how: Likeness) => take(all(alike(how)), 'only')
  const pickColour = (colour: string) => take(all(free.value.filter((one) => colourOf(one) === colour)), 'only')
  const pickLayer = (layer: string) => take(all(free.value.filter((one) => one.layer.id === layer)), 'only')
  const pickAll = () => take(all(free.value), 'only')

  /** The next or previous piece, for hands that stay on the keys. */
  function step(by: 1 | -1) {
    if (!free.value.length) return
    const at = free.value.findIndex((one) => one.piece.id === pieces.value.at(-1))
    const next = at < 0 ? (by > 0 ? 0 : free.value.length - 1) : (at + by + free.value.length) % free.value.length
    touched.value = null
    take(all([free.value[next]]), 'only')
  }

  // What is gone is no longer picked; outlines and nodes only stay of pieces whose lines are the same.
  watch(byId, (now, before) => {
    const kept = picks.value.filter((pick) => {
      const path = now.get(pick.piece)?.piece.path
      return path && (pick.outline === undefined && pick.node === undefined ? true : before?.get(pick.piece)?.piece.path === path)
    })
    const gone = kept.length !== picks.value.length
    // What was made of all that was picked is picked in its place: its ids begin with the key of the step.
    const made = coming ? `${job.head?.steps.at(-1)?.key}:` : ''
    const there = made ? [...now.keys()].filter((id) => id.startsWith(made)) : []
    if (gone && !kept.length && there.length) picks.value = there.map((piece) => ({ piece }))
    else if (gone) picks.value = kept
    coming = false
    touched.value = null
  })
  let coming = false
  /** A step is on its way: where all that is picked goes, what it makes is picked. */
  /** The key of the step that makes just what is picked, where what it makes keeps its meaning when the step changes. */
  function made(): string {
    const [first] = pieces.value
    const key = first?.includes(LASTING) ? first.split(':')[0] : ''
    if (!key) return ''
    const all = drawing.inUse.filter(({ piece }) => piece.id.startsWith(`${key}:`))
    return all.length === pieces.value.length && all.every(({ piece }) => pickedPieces.value.has(piece.id)) ? key : ''
  }
  const becomes = (on: boolean) => (coming = on)

  let asked = 0
  let timer = 0
  async function read(some: Pick[]): Promise<Reading> {
    const body = { picks: some.map(({ piece, outline }) => ({ piece, outline })) }
    return want(client.POST('/api/jobs/{job}/documents/{document}/reading', { params: { path: drawing.at(drawing.shown) }, body }))
  }
  async function readAll(number: number) {
    const some = picks.value.filter((pick) => pick.node === undefined)
    const outline = touched.value
    problem.value = ''
    try {
      const [whole, one] = await Promise.all([
        some.length && some.length <= MOST_READ ? read(some) : null,
        outline ? read([outline]) : null,
      ])
      if (number === asked) [reading.value, touchedReading.value] = [whole, one]
    } catch (error) {
      if (number === asked) problem.value = error instanceof Refused ? error.sentence : String(error)
    }
  }
  watch([picks, touched, () => drawing.shown], () => {
    const number = ++asked
    window.clearTimeout(timer)
    if (!picks.value.length) reading.value = touchedReading.value = null
    else timer = window.setTimeout(() => void readAll(number), RESTED_MS)
  })

  return {
    level,
    picks,
    keys,
    pieces,
    pickedPieces,
    touched,
    hovered,
    reading,
    touchedReading,
    problem,
    byId,
    free,
    becomes,
    made,
    click,
    band,
    take,
    clear,
    alike,
    pickAlike,
    pickColour,
    pickLayer,
    pickAll,
    pickOf,
    step,
    locked,
  }
})

/** The colour that a piece is told by: its fill's, else its line's, else its layer's. */
export const colourOf = ({ piece, layer }: Drawn) => piece.fill ?? piece.stroke?.color ?? layer.color

const sizeOf = ({ shape: { box } }: Drawn) => [box[2] - box[0], box[3] - box[1]]
const near = (a: number, b: number) => Math.abs(a - b) <= ALIKE * Math.max(a, b) + 0.01

/** A line, one outline, a shape with holes or a compound; round or not is told by its size. */
function kindOf({ shape }: Drawn): string {
  if (!shape.closed.some((closed) => closed)) return 'line'
  return shape.closed.length === 1 ? 'one outline' : 'several outlines'
}

const LIKE: Record<Likeness, (one: Drawn, own: Drawn[], picked: Set<string>) => boolean> = {
  colour: (one, own) => own.some((mine) => colourOf(mine) === colourOf(one)),
  layer: (one, own) => own.some((mine) => mine.layer.id === one.layer.id),
  kind: (one, own) => own.some((mine) => kindOf(mine) === kindOf(one)),
  size: (one, own) =>
    own.some((mine) => {
      const [a, b] = [sizeOf(mine), sizeOf(one)]
      return near(a[0], b[0]) && near(a[1], b[1])
    }),
  inside: (one, own, picked) => {
    const [left, top, right, bottom] = one.shape.box
    if (picked.has(one.piece.id)) return false
    return own.some(({ shape: { box } }) => left > box[0] && top > box[1] && right < box[2] && bottom < box[3])
  },
  others: (one, _own, picked) => !picked.has(one.piece.id),
}
