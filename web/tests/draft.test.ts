import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'

import { unpackDraft } from '@/api/drafts'
import type { Job, Operation } from '@/api/types'
import { useDraft } from '@/stores/draft'
import { useJob } from '@/stores/job'
import { useLibrary } from '@/stores/library'

/** A draft as the server sends it: a head, and paths of which there are none. */
function packed(number: number, title: string): ArrayBuffer {
  const pad = (text: string) => text + ' '.repeat((4 - (text.length % 4)) % 4)
  const head = pad(
    JSON.stringify({
      number,
      title,
      note: '',
      stopped: [],
      before: {},
      after: {},
      page: null,
      layers: [],
      pieces: [],
      gone: [],
      order: [],
    }),
  )
  const table = pad('[]')
  const buffer = new ArrayBuffer(8 + head.length + table.length)
  new DataView(buffer).setUint32(0, head.length, true)
  new Uint8Array(buffer).set(new TextEncoder().encode(head), 4)
  new DataView(buffer).setUint32(4 + head.length, table.length, true)
  new Uint8Array(buffer).set(new TextEncoder().encode(table), 8 + head.length)
  return buffer
}

const BACKING = {
  id: 'backing',
  station: 'build',
  title: 'Lay a backing',
  sentence: '{distance}',
  roles: [{ id: 'on', label: '', least: 1, everything: true, when: null }],
  parameters: [{ name: 'distance', kind: 'length', default: 3, instead_of: ['factor'], when: null, handle: 'out' }],
} as unknown as Operation

beforeEach(() => {
  setActivePinia(createPinia())
  useJob().job = { id: 'j', head: { id: 7, steps: [], settings: {} } } as unknown as Job
  useLibrary().library = { ...useLibrary().library, operations: [BACKING] }
})

it('unpacks what a step would do', () => {
  const draft = unpackDraft(packed(4, 'Backing laid 3 mm out'))
  expect([draft.number, draft.title, draft.shapes.size]).toEqual([4, 'Backing laid 3 mm out', 0])
})

it('has one question on its way, then asks for the newest values', async () => {
  const asked: { parameters: Record<string, unknown>; based_on: number }[] = []
  const waiting: ((value: Response) => void)[] = []
  vi.stubGlobal('fetch', (_: string, options: { body: string }) => {
    const { step, based_on } = JSON.parse(options.body)
    asked.push({ parameters: step.parameters, based_on })
    return new Promise<Response>((done) => waiting.push(done))
  })
  const draft = useDraft()
  draft.begin('backing', { distance: 2, factor: 5 })
  const [parameter] = draft.fields
  for (const value of [3, 4, 5]) draft.set(parameter, value, false)
  expect(asked).toHaveLength(1)
  waiting[0](new Response(packed(1, 'first')))
  await vi.waitFor(() => expect(asked).toHaveLength(2))
  // What one value stands in the place of is let go of.
  expect(asked[1]).toEqual({ parameters: { distance: 5 }, based_on: 7 })
  waiting[1](new Response(packed(2, 'second')))
  await vi.waitFor(() => expect(draft.shown?.title).toBe('second'))
})

it('says why a step cannot be done, and is not kept then', async () => {
  const refused = { code: 'cannot-do', sentence: 'Take a smaller distance.' }
  vi.stubGlobal('fetch', () => Promise.resolve(new Response(JSON.stringify(refused), { status: 422 })))
  const draft = useDraft()
  draft.begin('backing')
  await vi.waitFor(() => expect(draft.problem).toBe('Take a smaller distance.'))
  expect(await draft.keep()).toBe(false)
})

it('is kept though it cannot be shown beforehand', async () => {
  const job = useJob()
  const put = vi.spyOn(job, 'putStep').mockResolvedValue(true)
  for (const [status, code] of [
    [413, 'not-shown'],
    [503, 'no-preview'],
  ] as const) {
    vi.stubGlobal('fetch', () => Promise.resolve(new Response(JSON.stringify({ code, sentence: 'Keep it to see it.' }), { status })))
    const draft = useDraft()
    draft.begin('backing')
    await vi.waitFor(() => expect(draft.unseen).toBe('Keep it to see it.'))
    expect([await draft.keep(), draft.operation]).toEqual([true, null])
  }
  expect(put).toHaveBeenCalledTimes(2)
})

it('waits for what was kept just before, and leaves alone what is set up meanwhile', async () => {
  vi.stubGlobal('fetch', () => Promise.resolve(new Response(packed(1, 'first'))))
  const job = useJob()
  const put = vi.spyOn(job, 'putStep').mockResolvedValue(true)
  const draft = useDraft()
  draft.begin('backing')
  job.busy = 'Keeping ...'
  const kept = draft.keep()
  await new Promise((done) => setTimeout(done, 50))
  expect(put).not.toHaveBeenCalled()
  draft.begin('backing', { distance: 9 })
  job.busy = ''
  expect(await kept).toBe(true)
  expect(put.mock.calls[0][1]).toMatchObject({ parameters: {} })
  expect(draft.values).toEqual({ distance: 9 })
})
