import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'

import type { Draft } from '@/api/drafts'
import type { Job, Operation } from '@/api/types'
import { snappedTo } from '@/canvas/nodeSnap'
import { useDraft } from '@/stores/draft'
import { useJob } from '@/stores/job'
import { useLibrary } from '@/stores/library'
import { useNodes } from '@/stores/nodes'

const NODES = {
  id: 'nodes',
  station: 'build',
  title: 'Nodes by hand',
  sentence: '',
  roles: [],
  parameters: [{ name: 'edits', kind: 'data', default: null, instead_of: [], when: null, handle: '' }],
} as unknown as Operation
const SPOTS = [
  { id: 's:a b n0', at: [0, 0], turn: 0, size: [0, 0] },
  { id: 's:a b n1', at: [10, 0], turn: 0, size: [0, 0] },
  { id: 's:a b h0.1.1', at: [7, 2], turn: 0, size: [0, 0] },
  { id: 's:c n0', at: [5, 5], turn: 0, size: [0, 0] },
]

beforeEach(() => {
  setActivePinia(createPinia())
  vi.stubGlobal('fetch', () => new Promise(() => {}))
  useJob().job = { id: 'j', head: { id: 7, steps: [], settings: {} } } as unknown as Job
  useLibrary().library = { ...useLibrary().library, operations: [NODES] }
  useDraft().begin('nodes')
  useDraft().shown = { spots: SPOTS } as unknown as Draft
})

it('knows nodes and handles by their names', () => {
  const nodes = useNodes()
  expect(nodes.nodes.map(({ piece, number }) => `${piece}/${number}`)).toEqual(['s:a b/0', 's:a b/1', 's:c/0'])
  expect(nodes.hands[2]).toMatchObject({ kind: 'handle', number: 0, end: 1, node: 1 })
})

it('makes a change for each piece that has picked nodes', () => {
  const nodes = useNodes()
  nodes.picked = new Set(['s:a b n1', 's:c n0'])
  nodes.change('smooth')
  expect(nodes.edits).toEqual([
    { do: 'smooth', piece: 's:a b', nodes: [1] },
    { do: 'smooth', piece: 's:c', nodes: [0] },
  ])
  nodes.change('delete')
  expect(nodes.picked.size).toBe(0)
})

it('folds moves of the same nodes, tries them while they are held, and goes back on them', () => {
  const nodes = useNodes()
  nodes.picked = new Set(['s:a b n1'])
  nodes.move(1, 0)
  nodes.move(0.5, -2)
  expect(nodes.edits).toEqual([{ do: 'move', piece: 's:a b', nodes: [1], by: [1.5, -2] }])
  nodes.hold()
  nodes.move(5, 5, false)
  nodes.move(1, 1, false)
  nodes.letGo()
  expect(nodes.edits).toEqual([{ do: 'move', piece: 's:a b', nodes: [1], by: [2.5, -1] }])
  nodes.back()
  expect(nodes.edits).toEqual([])
})

it('snaps to nodes first, then to their height and side, and to where the drag began', () => {
  expect(snappedTo([9.7, 0.2], [0, 0], [[10, 0]], 1)?.at).toEqual([10, 0])
  expect(snappedTo([5.2, 0.3], [5, 9], [[10, 0]], 1)?.at).toEqual([5, 0])
  expect(snappedTo([5.2, 0.3], [5, 9], [[10, 0]], 1)?.guides).toHaveLength(2)
  expect(snappedTo([30, 30], [5, 9], [[10, 0]], 1)).toBeNull()
})
