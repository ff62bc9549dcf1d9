import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'

import { client, want } from '@/api/client'
import { words } from '@/words'

import { useJob } from './job'
import { nearestOn, placeAlong } from './played'
import { useWorking } from './working'

/** Pieces to their outlines, each with a share of its length. */
interface Placed {
  places: Record<string, Record<string, number>>
}

/** Where a closed line is begun, set by a person: by a click on it, or by how far along. */
export const useStarting = defineStore('starting', () => {
  const job = useJob()
  const working = useWorking()
  /** The piece whose lines are begun elsewhere, by its id and its number in the program, -1 without; and which of its
   * lines. */
  const id = ref('')
  const piece = computed(() => (id.value ? (working.shown?.program.pieces.indexOf(id.value) ?? -1) : -1))
  const nth = ref(0)
  /** A place on the run that is pointed at, in mm. */
  const place = ref<[number, number] | null>(null)

  /** The first run of each closed outline of the piece. */
  const runs = computed(() => {
    const of = working.shown?.program.runs
    const seen = new Set<number>()
    return (of?.piece ?? []).flatMap((one, k) => {
      if (one !== piece.value || !of!.closed[k] || seen.has(of!.outline[k])) return []
      seen.add(of!.outline[k])
      return [k]
    })
  })
  const run = computed(() => runs.value[Math.min(nth.value, runs.value.length - 1)] ?? -1)
  const kept = computed(() => job.head?.steps.findLast((one) => one.operation === 'start-points' && one.enabled))

  function begin(of: string) {
    id.value = of
    nth.value = 0
    place.value = null
  }
  const leave = () => begin('')
  watch(
    () => job.job?.id,
    () => leave(),
  )

  /** Points at the nearest place on a line of the piece, within a distance in mm. */
  function pointAt(x: number, y: number, within: number) {
    const found = working.shown && nearestOn(working.shown, runs.value, x, y, within)
    place.value = found?.place ?? null
    if (found) nth.value = runs.value.indexOf(found.run)
  }
  /** The place so far along the line, in mm from its begin. */
  const along = (far: number) => (working.shown && run.value >= 0 ? placeAlong(working.shown, run.value, far) : null)

  /** The line begins there from now on. */
  async function set(at: [number, number] | null) {
    const program = working.shown?.program
    if (!at || !program || run.value < 0 || !job.job || !job.head) return
    const query = {
      sheet: working.sheet,
      piece: id.value,
      outline: program.runs.outline[run.value],
      x: at[0],
      y: at[1],
    }
    try {
      const params = { path: { job: job.job.id, revision: job.head.id }, query }
      const found = await want(client.GET('/api/jobs/{job}/revisions/{revision}/program/start', { params }))
      const before = (kept.value?.parameters as Placed | undefined)?.places ?? {}
      const places = { ...before, [found.piece]: { ...before[found.piece], [found.outline]: found.share } }
      const key = kept.value?.key
      const step = { ...(key ? { key } : {}), operation: 'start-points', parameters: { places }, selection: {} }
      await job.putStep(words.working.starting, step)
      leave()
    } catch (error) {
      job.problem = (error as { sentence?: string }).sentence ?? String(error)
    }
  }

  return { piece, nth, runs, run, place, kept, begin, leave, pointAt, along, set }
})
