import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'

import type { Job } from '@/api/types'
import { useDrawing } from '@/stores/drawing'
import { useJob } from '@/stores/job'

/** A server that answers from a list, in order; each entry a status and a body. */
function serve(...answers: [number, unknown][]) {
  const asked: { method: string; url: string; body: string }[] = []
  vi.stubGlobal('fetch', async (request: Request) => {
    asked.push({ method: request.method, url: request.url, body: await request.clone().text() })
    const next = answers.shift()
    if (!next) throw new TypeError('nobody answers')
    return new Response(JSON.stringify(next[1]), { status: next[0], headers: { 'Content-Type': 'application/json' } })
  })
  return asked
}

function job(head: number, aside: string[] = []): Job {
  const statistics = { pieces: 1, outlines: 1, nodes: 4, line_mm: 40, width_mm: 10, height_mm: 10, strays: 0 }
  return {
    id: 'j',
    name: 'Job',
    is_demo: false,
    changed: '2026-01-01T00:00:00Z',
    can_undo: true,
    can_redo: false,
    undo_what: '',
    redo_what: '',
    run: null,
    head: {
      id: head,
      parent: null,
      what: '',
      created: '2026-01-01T00:00:00Z',
      settings: { set_aside: aside },
      held: {
        material: null,
        machine: null,
        purpose: '',
        target: null,
        purpose_says: '',
        bears: { least_strip_mm: 0.3, least_gap_mm: 0.1, least_piece_mm2: 0.25 },
        differing: [],
      },
      parent_document: null,
      document: `d${head}`,
      statistics,
      size_in_words: '',
      target: null,
      sizes: [],
      pictures: [],
      steps: [],
    },
  }
}
const changed = { code: 'changed-meanwhile', sentence: 'changed' }

beforeEach(() => setActivePinia(createPinia()))

/** A packed answer without any paths. */
const NO_PATHS = Uint8Array.from([4, 0, 0, 0, ...Buffer.from('[]  ')])

it('shows a new head with its findings at once', async () => {
  const jobs = useJob()
  serve([200, job(1)], [200, [{ key: 'a', level: 'spoils', set_aside: false }]])
  await jobs.load('j')
  expect([jobs.head?.id, jobs.open.length, jobs.busy]).toEqual([1, 1, ''])
})

it('shows a job that could not be looked at for faults, says so, and looks again', async () => {
  const jobs = useJob()
  serve(
    [200, job(1)],
    [500, { code: 'failed', sentence: 'Something went wrong.' }],
    [200, [{ key: 'a', level: 'spoils', set_aside: false }]],
  )
  await jobs.load('j')
  expect([jobs.head?.id, jobs.unchecked, jobs.problem]).toEqual([1, 'Something went wrong.', ''])
  await jobs.recheck()
  expect([jobs.unchecked, jobs.open.length]).toEqual(['', 1])
})

it('shows what is there after a change that was still under way when the job is opened again', async () => {
  const jobs = useJob()
  const asked = serve([200, job(1)], [200, []], [201, job(2)], [200, []], [200, job(3)], [200, []])
  await jobs.load('j')
  const changing = jobs.set('Choosing', () => ({ machine: 'desk-cutter' }))
  await Promise.all([jobs.load('j'), changing])
  expect([jobs.head?.id, asked.filter((one) => one.method === 'POST').length]).toEqual([3, 1])
})

it('keeps what is shown when a step is refused, and says why', async () => {
  const jobs = useJob()
  serve([200, job(1)], [200, []], [422, { code: 'cannot-do', sentence: 'It cannot be done.' }])
  await jobs.load('j')
  expect(await jobs.addStep('Sizing', 'resize', { factor: 2 })).toBe(false)
  expect([jobs.problem, jobs.head?.id]).toEqual(['It cannot be done.', 1])
})

it('says so when nobody answers', async () => {
  const jobs = useJob()
  serve()
  await jobs.load('j')
  expect(jobs.problem).toContain('does not answer')
})

it('makes an overtaken change again on top of what is there now', async () => {
  const jobs = useJob()
  const asked = serve([200, job(1)], [200, []], [409, changed], [200, job(2, ['x'])], [200, []], [201, job(3)], [200, []])
  await jobs.load('j')
  await jobs.setAside('k', true)
  expect(jobs.overtaken).not.toBeNull()
  await jobs.overtaken!()
  expect([jobs.head?.id, jobs.overtaken]).toEqual([3, null])
  const again = JSON.parse(asked[5].body)
  // The other window's change is not undone by ours.
  expect([again.based_on, again.settings.set_aside]).toEqual([2, ['x', 'k']])
})

it('takes one change at a time', async () => {
  const jobs = useJob()
  const asked = serve([200, job(1)], [200, []], [201, job(2)], [200, []])
  await jobs.load('j')
  const [first, second] = await Promise.all([jobs.move('undo'), jobs.move('undo')])
  expect([first, second, asked.length]).toEqual([true, false, 4])
})

it('paints only the newest document that was asked for, and fetches only what is new', async () => {
  const drawing = useDrawing()
  const slow = new Map<string, (r: Response) => void>()
  const urls: string[] = []
  vi.stubGlobal('fetch', (asked: Request | string) => {
    const url = typeof asked === 'string' ? asked : asked.url
    urls.push(url)
    if (url.includes('/paths')) return Promise.resolve(new Response(NO_PATHS))
    return new Promise<Response>((done) => slow.set(url.match(/documents\/(\w+)/)![1], done))
  })
  const answer = () =>
    new Response(JSON.stringify({ page: [1, 1], frame: [1, 1], box: null, layers: [], making: [], pieces: [], pictures: [] }), {
      headers: { 'Content-Type': 'application/json' },
    })
  const first = drawing.load('a')
  const second = drawing.load('b')
  await vi.waitFor(() => expect(slow.size).toBe(2))
  slow.get('b')!(answer())
  await second
  slow.get('a')!(answer())
  await first
  expect(drawing.shown).toBe('b')
  void drawing.load('c')
  await vi.waitFor(() => expect(urls.some((url) => url.includes('c/paths'))).toBe(true))
  expect(urls.find((url) => url.includes('c/paths'))).toContain('since=b')
})

it('does not go on saying that it looks for faults when the head has moved on meanwhile', async () => {
  const looking = { id: 'r', job: 'j', kind: 'check', state: 'running', progress: 0, stage: '', error: null }
  const jobs = useJob()
  serve([200, job(1)], [202, looking])
  await jobs.load('j')
  expect(jobs.checking?.id).toBe('r')
  serve([200, job(2)], [200, []])
  await jobs.move('undo')
  expect([jobs.head?.id, jobs.checking]).toEqual([2, null])
})

it('keeps all that nobody answered, and sends it again in order, each with its own token', async () => {
  const jobs = useJob()
  serve([200, job(1)], [200, []])
  await jobs.load('j')
  serve()
  await jobs.setPieces('Hiding', ['a'], { hidden: true })
  await jobs.setPieces('Locking', ['b'], { locked: true })
  expect(jobs.unsent.map((one) => one.what)).toEqual(['Hiding', 'Locking'])
  const asked = serve([201, job(2)], [200, []], [201, job(3)], [200, []])
  await jobs.sendAgain()
  expect([jobs.unsent.length, jobs.head?.id]).toEqual([0, 3])
  const [first, , second] = asked.map((one) => one.body && JSON.parse(one.body))
  expect([first.based_on, second.based_on, first.token === second.token]).toEqual([1, 2, false])
})

it('sets a layer by a step, and folds what is said of it in a row into one', async () => {
  const jobs = useJob()
  const kept = { key: 'k', operation: 'layer', enabled: true, parameters: { layer: 'a', treatment: 'score' } }
  const set = { ...job(2), head: { ...job(2).head, steps: [kept] } }
  const asked = serve([200, job(1)], [200, []], [201, set], [200, []], [201, set], [200, []], [201, set], [200, []])
  await jobs.load('j')
  await jobs.setLayer('Changing', 'a', { treatment: 'score' })
  await jobs.setLayer('Changing', 'a', { color: '#b5653c' })
  await jobs.setLayer('Changing', 'a', { hidden: true })
  const sent = asked.filter((one) => one.method === 'POST').map((one) => JSON.parse(one.body))
  expect(sent.map((one) => one.steps)).toEqual([
    [{ operation: 'layer', parameters: { layer: 'a', treatment: 'score' } }],
    [{ key: 'k', parameters: { layer: 'a', treatment: 'score', color: '#b5653c' } }],
    [{ key: 'k' }],
  ])
  expect(sent[2].settings).toEqual({ layers: { a: { hidden: true } } })
})
