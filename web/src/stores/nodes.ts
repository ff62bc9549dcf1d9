import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'

import { useDraft } from './draft'

/** A change of outlines by hand, as the step keeps it (core: operations/nodes.py). */
export type Edit = { do: string; piece: string } & Record<string, unknown>

/** A node or a handle on the work: of a piece, by its number; a handle by its segment and end, and the node that it is
 * of. */
export interface Hand {
  id: string
  piece: string
  kind: 'node' | 'handle'
  number: number
  end: number
  node: number
  at: [number, number]
}

const NAME = /^(.*) ([nh])(\d+)(?:\.(\d)\.(\d+))?$/

/** Outlines that are changed by hand: the nodes and handles as the changes so far leave them, and which are picked. */
export const useNodes = defineStore('nodes', () => {
  const draft = useDraft()
  const picked = shallowRef(new Set<string>())
  const stepMm = ref(0.5)

  /** While something is dragged, nodes stand where they stood, and changes are tried on what was there before. */
  const frozen = shallowRef<{ hands: Hand[]; edits: Edit[] } | null>(null)
  const hold = () => (frozen.value = { hands: hands.value, edits: edits.value })
  const letGo = () => (frozen.value = null)

  const hands = computed<Hand[]>(() => frozen.value?.hands ?? found.value)
  const found = computed<Hand[]>(() =>
    (draft.shown?.spots ?? []).flatMap(({ id, at }) => {
      const found = NAME.exec(id)
      return found
        ? [
            {
              id,
              piece: found[1],
              kind: found[2] === 'n' ? ('node' as const) : ('handle' as const),
              number: Number(found[3]),
              end: Number(found[4] ?? 0),
              node: Number(found[5] ?? found[3]),
              at,
            },
          ]
        : []
    }),
  )
  const nodes = computed(() => hands.value.filter((one) => one.kind === 'node'))
  const pickedNodes = computed(() => nodes.value.filter((one) => picked.value.has(one.id)))
  const edits = computed(() => frozen.value?.edits ?? (((draft.values.edits as { edits?: Edit[] } | undefined)?.edits ?? []) as Edit[]))

  function setEdits(next: Edit[], resting = true) {
    const parameter = draft.operation?.parameters.find((one) => one.name === 'edits')
    if (parameter) draft.set(parameter, next.length ? { edits: next } : undefined, resting)
  }
  /** One change for each piece that has picked nodes. */
  function change(what: string, more: Record<string, unknown> = {}, resting = true) {
    const byPiece = new Map<string, number[]>()
    for (const { piece, number } of pickedNodes.value) byPiece.set(piece, [...(byPiece.get(piece) ?? []), number])
    const made = [...byPiece].map(([piece, own]) => ({ do: what, piece, nodes: own, ...more }))
    if (made.length) setEdits([...edits.value, ...made], resting)
    // Other numbers mean other nodes afterwards.
    if (['delete', 'open', 'join', 'start', 'reverse'].includes(what)) picked.value = new Set()
  }
  const round = (value: number) => Math.round(value * 1000) / 1000
  function move(dx: number, dy: number, resting = true) {
    // Moves of the same nodes that follow each other are one.
    const last = edits.value.at(-1)
    const [one] = pickedNodes.value
    const own = pickedNodes.value.map(({ number }) => number)
    if (
      last?.do === 'move' &&
      one &&
      last.piece === one.piece &&
      pickedNodes.value.every(({ piece }) => piece === one.piece) &&
      String(last.nodes) === String(own)
    ) {
      const [x, y] = last.by as [number, number]
      return setEdits([...edits.value.slice(0, -1), { ...last, by: [round(x + dx), round(y + dy)] }], resting)
    }
    change('move', { by: [round(dx), round(dy)] }, resting)
  }
  const moveHandle = (hand: Hand, to: [number, number], even: boolean, resting = true) =>
    setEdits([...edits.value, { do: 'handle', piece: hand.piece, segment: hand.number, end: hand.end, to: to.map(round), even }], resting)
  const add = (piece: string, near: [number, number]) => {
    picked.value = new Set()
    setEdits([...edits.value, { do: 'add', piece, near: near.map(round) }])
  }
  function back() {
    picked.value = new Set()
    setEdits(edits.value.slice(0, -1))
  }
  watch(
    () => draft.operation,
    () => (picked.value = new Set()),
  )
  return { picked, stepMm, hands, nodes, pickedNodes, edits, hold, letGo, change, move, moveHandle, add, back }
})
