import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import { effectScope, nextTick, ref } from 'vue'

import { pathData, unpackPreview } from '@/api/previews'
import { follow, stop, Stopped } from '@/api/runs'
import type { Run } from '@/api/types'
import { useLate } from '@/composables/late'
import { useTrace } from '@/stores/trace'

const WAYS = [
  { mode: 'dark', told: { even_light: true }, words: 'its dark parts' },
  { mode: 'shades', told: { shades: 5 }, words: 'five shades' },
]
const PROPOSED = { kind: 'scan', sentence: 'A scan.', warning: '', always: {}, ways: WAYS, level_degrees: null, levels: [1, 0] }

/** A preview as the server sends it: a triangle whose corner tells which question it answers. */
function packed(number: number, coarse = false): ArrayBuffer {
  const found = { layers: [{ name: 'Traced', color: '#111111', base: '#111111', lines: false }], parts: [['1,1', 0, 1]], layer_of: [0] }
  const told = { title: '', notes: [], chosen: { threshold: 0.5 }, proposed: { threshold: 0.5 }, matrix: [1, 0, 0, 1, 0, 0], plane: null }
  const counts = { pieces: 1, nodes: 3, line_mm: 9, specks: 0, mean_mm: 0, max_mm: 0, points: 3, outlines: 1 }
  const head = { number, coarse, ...found, ...told, ...counts }
  let text = JSON.stringify(head)
  text += ' '.repeat((4 - (text.length % 4)) % 4)
  const buffer = new ArrayBuffer(4 + text.length + 24 + 8)
  new DataView(buffer).setUint32(0, text.length, true)
  new Uint8Array(buffer).set(new TextEncoder().encode(text), 4)
  new Float32Array(buffer, 4 + text.length, 6).set([number, 0, 3, 0, 3, 3])
  new Uint32Array(buffer, 4 + text.length + 24, 2).set([0, 3])
  return buffer
}

/** Previews are answered when the test says so. */
function held() {
  const waiting: { number: number; coarse: boolean; threshold: number; answer: (r: Response) => void }[] = []
  vi.stubGlobal('fetch', (asked: Request | string, init?: RequestInit) => {
    if (typeof asked !== 'string')
      return Promise.resolve(Response.json(asked.url.endsWith('proposal') ? PROPOSED : { size: [1, 1], tiles: {} }))
    const { number, coarse, threshold } = JSON.parse(String(init?.body))
    return new Promise<Response>((answer) => waiting.push({ number, coarse, threshold, answer }))
  })
  return waiting
}
const settle = () => new Promise((done) => setTimeout(done))

async function opened() {
  const waiting = held()
  const trace = useTrace()
  await trace.open({ job: 'j', before: 'd', picture: 'p', step: null })
  return { trace, waiting }
}

beforeEach(() => setActivePinia(createPinia()))

it('reads a preview as the server packs it', () => {
  const preview = unpackPreview(packed(7))
  expect(preview).toMatchObject({ number: 7, pieces: 1, d: 'M7.000 0.000L3.000 0.000L3.000 3.000Z' })
  expect(preview.fills).toEqual([preview.d])
  expect(pathData(preview.points, preview.start, () => true, [0])).not.toContain('Z')
})

it('begins with what is proposed and asks for it exactly', async () => {
  const { trace, waiting } = await opened()
  expect([trace.mode, trace.options.even_light, trace.values.threshold]).toEqual(['dark', true, null])
  expect(waiting.map((w) => w.coarse)).toEqual([false])
  waiting[0].answer(new Response(packed(waiting[0].number)))
  await settle()
  expect([trace.shown?.pieces, trace.value('threshold')]).toEqual([1, 0.5])
  expect(trace.changed).toBe(true)
  expect(trace.parameters()).toMatchObject({ mode: 'dark', even_light: true, threshold: null })
})

it('tells each way only what it knows, with what is proposed for it', async () => {
  const { trace } = await opened()
  trace.chooseMode('shades')
  trace.tell('holes', true)
  expect(trace.parameters()).toMatchObject({ mode: 'shades', shades: 5 })
  expect(trace.parameters()).not.toHaveProperty('holes')
  trace.chooseMode('outside')
  expect(trace.parameters()).toMatchObject({ holes: true })
  trace.reset('holes', 'even_light')
  expect(trace.parameters()).not.toHaveProperty('holes')
})

it('holds a trace to be compared, and swaps the two', async () => {
  const { trace, waiting } = await opened()
  waiting[0].answer(new Response(packed(waiting[0].number)))
  await settle()
  trace.hold()
  trace.set('threshold', 0.7, false)
  trace.tell('dropped', [[4, 5]])
  trace.swap()
  expect([trace.values.threshold, trace.options.dropped, trace.held?.options.dropped]).toEqual([null, [], [[4, 5]]])
  trace.letGo()
  expect(trace.held).toBe(null)
})

it('has one question on its way, and the newest wish follows it', async () => {
  const { trace, waiting } = await opened()
  for (const value of [0.1, 0.2, 0.3]) trace.set('threshold', value, true)
  trace.set('threshold', 0.4, false)
  expect(waiting).toHaveLength(1)
  waiting[0].answer(new Response(packed(waiting[0].number)))
  await settle()
  expect(waiting.slice(1).map((w) => [w.threshold, w.coarse])).toEqual([[0.4, false]])
})

it('never paints an answer older than the one that is painted', async () => {
  const { trace, waiting } = await opened()
  waiting[0].answer(new Response(packed(90)))
  await settle()
  trace.set('threshold', 0.2, false)
  waiting[1].answer(new Response(packed(3)))
  await settle()
  expect(trace.shown?.number).toBe(90)
})

it('keeps the last good trace when one cannot be made, and says why', async () => {
  const { trace, waiting } = await opened()
  waiting[0].answer(new Response(packed(waiting[0].number)))
  await settle()
  trace.set('threshold', 0, false)
  waiting[1].answer(Response.json({ code: 'cannot-do', sentence: 'Nothing is so dark.' }, { status: 422 }))
  await settle()
  expect([trace.problem, trace.shown?.pieces]).toEqual(['Nothing is so dark.', 1])
  trace.set('threshold', 0.5, false)
  waiting[2].answer(new Response(packed(waiting[2].number)))
  await settle()
  expect(trace.problem).toBe('')
})

it('paints nothing of a trace that was left meanwhile', async () => {
  const { trace, waiting } = await opened()
  trace.close()
  waiting[0].answer(new Response(packed(waiting[0].number)))
  await settle()
  expect(trace.shown).toBe(null)
})

it('takes up a step as it was kept', async () => {
  held()
  const trace = useTrace()
  const statistics = { threshold: 0.6, smoothness_mm: 0.02, smallest_mm2: 0.3 }
  const step = { key: 'k', statistics, parameters: { threshold: 0.6 } } as never
  await trace.open({ job: 'j', before: 'd', picture: 'p', step })
  expect([trace.values.threshold, trace.changed]).toEqual([0.6, false])
  trace.set('threshold', 0.7, false)
  expect(trace.changed).toBe(true)
})

const RUN = { id: 'r', job: 'j', kind: 'revision', progress: 0, stage: '', error: null, so_far: null }
const runs = (...states: Run['state'][]) => {
  const left = states.map((state) => ({ ...RUN, state }))
  vi.stubGlobal('fetch', async () => Response.json(left.shift()))
}

it('follows work to its end, and tells how far it is', async () => {
  runs('running', 'done')
  const seen: string[] = []
  const ended = await follow({ ...RUN, state: 'waiting' }, (now) => seen.push(now.state))
  expect([ended.state, ...seen]).toEqual(['done', 'waiting', 'running'])
})

it('tells work that failed from work that was stopped', async () => {
  const failed = { ...RUN, state: 'failed' as const, error: { code: 'lost', sentence: 'Lost.' } }
  await expect(follow(failed, () => {})).rejects.toMatchObject({ code: 'lost', sentence: 'Lost.' })
  runs('cancelled')
  await expect(follow({ ...RUN, state: 'running' }, () => {})).rejects.toBeInstanceOf(Stopped)
})

it('hears at once of work that is stopped', async () => {
  const answers = { GET: { ...RUN, state: 'running' }, POST: { ...RUN, state: 'cancelled' } }
  vi.stubGlobal('fetch', async (asked: Request) => Response.json(answers[asked.method as 'GET']))
  const followed = follow({ ...RUN, state: 'running' }, () => {})
  const asked = vi.fn(globalThis.fetch)
  vi.stubGlobal('fetch', asked)
  await stop({ ...RUN, state: 'running' })
  await expect(followed).rejects.toBeInstanceOf(Stopped)
  expect(asked).toHaveBeenCalledTimes(1)
})

it('tells of a wait once it is long, and anew after each answer', async () => {
  vi.useFakeTimers()
  const awaited = ref<number | null>(null)
  const scope = effectScope()
  const late = scope.run(() => useLate(() => awaited.value))!
  const after = async (value: number | null, ms: number) => {
    awaited.value = value
    await nextTick()
    vi.advanceTimersByTime(ms)
    return late.value
  }
  expect(await after(null, 1000)).toBe(false)
  expect(await after(1, 300)).toBe(false)
  expect(await after(2, 300)).toBe(false)
  expect(await after(2, 200)).toBe(true)
  expect(await after(3, 0)).toBe(false)
  expect(await after(null, 1000)).toBe(false)
  expect(await after(4, 300)).toBe(false)
  scope.stop()
  vi.advanceTimersByTime(1000)
  expect(late.value).toBe(false)
  vi.useRealTimers()
})
