import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'

import { useRuler, type End } from '@/stores/ruler'

const end = (x: number, y: number, onLine = false): End => ({ at: [x, y], onLine })
let asked: { path: string; body: { first: object; last: object } }[]
let answer: () => Promise<Response>
const json = (body: unknown, status = 200) =>
  new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } })
const settled = () => new Promise((resolve) => setTimeout(resolve))

beforeEach(() => {
  setActivePinia(createPinia())
  asked = []
  answer = async () => json({ distance_mm: 12.5 })
  vi.stubGlobal('fetch', async (request: Request) => {
    asked.push({ path: new URL(request.url).pathname, body: await request.json() })
    return answer()
  })
})

it('shows the way between while it is moved, and the figure that is worked out once it is put', async () => {
  const ruler = useRuler()
  ruler.move(end(9, 9))
  expect([ruler.from, ruler.to]).toEqual([null, null])
  ruler.put(end(0, 0, true))
  ruler.move(end(3, 4))
  expect(ruler.text).toBe('5 mm')
  ruler.put(end(6, 8))
  ruler.move(end(90, 90))
  expect(ruler.to!.at).toEqual([6, 8])
  await settled()
  expect(asked).toHaveLength(1)
  expect(asked[0].body).toEqual({ first: { x: 0, y: 0, on_line: true }, last: { x: 6, y: 8, on_line: false } })
  expect(ruler.text).toBe('12.5 mm')
})

it('begins anew with the third click', async () => {
  const ruler = useRuler()
  for (const x of [0, 10, 20]) ruler.put(end(x, 0))
  expect([ruler.from!.at, ruler.to, ruler.fixed, ruler.text]).toEqual([[20, 0], null, false, ''])
  await settled()
  // What was asked before is no longer about these ends.
  expect([ruler.measured, ruler.text]).toEqual([null, ''])
})

it('says why there is no figure', async () => {
  answer = async () => json({ code: 'gone', sentence: 'This version of the design is gone.' }, 404)
  const ruler = useRuler()
  ruler.put(end(0, 0))
  ruler.put(end(1, 0))
  await settled()
  expect(ruler.problem).toContain('gone')
  ruler.clear()
  expect([ruler.problem, ruler.from]).toEqual(['', null])
})
