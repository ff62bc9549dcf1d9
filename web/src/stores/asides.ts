import { defineStore } from 'pinia'
import { ref, shallowReactive, shallowRef } from 'vue'

import { client, Refused, want } from '@/api/client'
import { follow, stop, Stopped } from '@/api/runs'
import type { Run, Settings, Weeded } from '@/api/types'
import { words } from '@/words'

import { useDrawing } from './drawing'

type Apart = Record<string, number[][]>

/** What some looks need beside the drawing, fetched when it is first looked at: what weeding leaves, and which outlines
 * belong together. */
export const useAsides = defineStore('asides', () => {
  const drawing = useDrawing()
  const weeded = shallowReactive(new Map<string, Weeded>())
  const apart = shallowReactive(new Map<string, Apart>())
  const problem = ref('')
  const under = new Set<string>()
  const MOST = 6

  async function once<T>(kept: Map<string, T>, key: string, name: string, fetch: () => Promise<T>) {
    if (kept.has(key) || under.has(name + key)) return
    under.add(name + key)
    problem.value = ''
    try {
      kept.set(key, await fetch())
      if (kept.size > MOST) kept.delete(kept.keys().next().value!)
    } catch (error) {
      problem.value = error instanceof Refused ? error.sentence : error instanceof Stopped ? words.weeded.stopped : String(error)
    } finally {
      under.delete(name + key)
    }
  }

  /** With what the machine's files are written: it, and the lists that have it. */
  type By = Pick<Partial<Settings>, 'machine' | 'lists'>
  const keyOf = (document: string, by: By = {}) => `${document}@${by.machine || 'any'}@${by.lists ?? 0}`

  /** What works at it, of a large design. */
  const run = shallowRef<Run | null>(null)
  async function askWeeded(document: string, by: By): Promise<Weeded> {
    const params = { path: { ...drawing.at(document), machine: by.machine || 'any' }, query: { lists: by.lists ?? 0 } }
    const ask = () => want(client.GET('/api/jobs/{job}/documents/{document}/weeded/{machine}', { params }))
    const answer = await ask()
    if (!('state' in answer)) return answer
    try {
      await follow(answer, (now) => (run.value = now))
    } finally {
      run.value = null
    }
    return (await ask()) as Weeded
  }
  const wantWeeded = (document: string, by: By = {}) => once(weeded, keyOf(document, by), 'weeded', () => askWeeded(document, by))
  const halt = () => run.value && void stop(run.value)

  const wantApart = (document: string) =>
    once(
      apart,
      document,
      'apart',
      async () => (await want(client.GET('/api/jobs/{job}/documents/{document}/apart', { params: { path: drawing.at(document) } }))).paths,
    )

  return { weeded, apart, problem, run, halt, keyOf, wantWeeded, wantApart }
})
