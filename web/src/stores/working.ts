import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'

import { client, Refused, want } from '@/api/client'

import { words } from '@/words'

import { useJob } from './job'
import { played, type Played } from './played'
import { useSheets } from './sheets'

/** Runs of one piece that follow each other: a row of the list. */
export interface Stretch {
  piece: number
  tool: number
  first: number
  last: number
}

/** How fast a program can be played. */
export const PACES = [1, 2, 5, 10, 20, 50, 100]

/** What the machine does with the job, run by run: at which time it is looked at, and what of it is left out. */
export const useWorking = defineStore('working', () => {
  const job = useJob()
  const sheets = useSheets()
  const shown = shallowRef<Played | null>(null)
  const loading = ref(false)
  const problem = ref('')
  /** The sheet, from 1; 0: the design without one. */
  const sheet = ref(0)
  const time = ref(0)
  const playing = ref(false)
  const pace = ref(10)
  const travel = ref(true)
  const numbers = ref(true)
  const speed = ref(false)
  const picked = ref(-1)
  /** The file begins with this run; and pieces that are done. */
  const from = ref(0)
  const done = ref<number[]>([])
  let asked = 0

  async function load() {
    const revision = job.head?.id
    if (!job.job || !revision) return
    const turn = ++asked
    loading.value = true
    problem.value = ''
    playing.value = false
    try {
      const params = { path: { job: job.job.id, revision }, query: { sheet: sheet.value } }
      const program = await want(client.GET('/api/jobs/{job}/revisions/{revision}/program', { params }))
      if (turn !== asked) return
      shown.value = played(program)
      time.value = total.value
      from.value = 0
      done.value = []
      picked.value = -1
    } catch (error) {
      if (turn !== asked) return
      shown.value = null
      problem.value = error instanceof Refused ? error.sentence : String(error)
    } finally {
      if (turn === asked) loading.value = false
    }
  }
  const total = computed(() => shown.value?.ends.at(-1) ?? 0)
  /** The run that is under way at a time, or the way to it; the last one behind the end. */
  function runAt(seconds: number): number {
    const ends = shown.value?.ends ?? new Float64Array()
    let [low, high] = [0, ends.length]
    while (low < high) {
      const middle = (low + high) >> 1
      if (ends[middle] <= seconds) low = middle + 1
      else high = middle
    }
    return Math.min(low, Math.max(ends.length - 1, 0))
  }
  const run = computed(() => runAt(time.value))
  const stretches = computed<Stretch[]>(() => {
    const runs = shown.value?.program.runs
    if (!runs) return []
    const made: Stretch[] = []
    runs.piece.forEach((piece, k) => {
      const before = made.at(-1)
      if (before && before.piece === piece && before.tool === runs.tool[k]) before.last = k
      else made.push({ piece, tool: runs.tool[k], first: k, last: k })
    })
    return made
  })
  const row = computed(() => stretches.value.findIndex((one) => one.first <= run.value && run.value <= one.last))

  function seek(seconds: number) {
    time.value = Math.min(Math.max(seconds, 0), total.value)
  }
  /** To the beginning of a run. */
  function goTo(k: number) {
    const at = shown.value
    if (at && k >= 0 && k < at.begins.length) seek(at.begins[k] + 1e-6)
  }
  /** To the piece before or behind the one that is under way. */
  function step(by: -1 | 1) {
    const to = stretches.value[Math.min(Math.max(row.value + by, 0), stretches.value.length - 1)]
    if (to) goTo(to.first)
  }
  function play() {
    if (time.value >= total.value - 1e-6) time.value = shown.value?.leaves[from.value] ?? 0
    playing.value = !playing.value
  }
  /** Pieces in their order, those of one in another's place. */
  async function reorder(which: number, to: number) {
    const program = shown.value?.program
    if (!program) return
    const order = [...new Set(stretches.value.map((one) => one.piece))]
    const [piece, place] = [stretches.value[which]?.piece, stretches.value[to]?.piece]
    if (piece === undefined || place === undefined || piece === place) return
    const at = order.indexOf(place)
    const rest = order.filter((one) => one !== piece)
    rest.splice(at, 0, piece)
    // Copies on a sheet go with their piece.
    const first = [...new Set(rest.map((one) => program.pieces[one].split('*')[0]))]
    const key = ordered.value?.key
    await job.putStep(words.working.moving, { ...(key ? { key } : {}), operation: 'work-order', parameters: { first }, selection: {} })
  }
  const ordered = computed(() => job.head?.steps.findLast((one) => one.operation === 'work-order' && one.enabled))

  watch(
    () => job.job?.id,
    () => {
      shown.value = null
      sheet.value = 0
    },
  )
  /** What is written: from a run on, without what is done. */
  const address = computed(() => {
    const program = shown.value?.program
    if (!program || !job.job || !job.head) return ''
    const asked = new URLSearchParams({ sheet: String(sheet.value), from: String(from.value) })
    done.value.forEach((piece) => asked.append('done', program.pieces[piece]))
    return `/api/jobs/${job.job.id}/revisions/${job.head.id}/program/file?${asked}`
  })
  const isLeft = (k: number) => k >= from.value && !done.value.includes(shown.value!.program.runs.piece[k])
  const seconds = computed(() => {
    const at = shown.value
    if (!at) return 0
    let sum = 0
    for (let k = 0; k < at.ends.length; k++) if (isLeft(k)) sum += at.ends[k] - at.leaves[k]
    return sum
  })

  return {
    shown,
    loading,
    problem,
    sheet,
    sheets,
    time,
    total,
    playing,
    pace,
    travel,
    numbers,
    speed,
    picked,
    from,
    done,
    run,
    row,
    stretches,
    ordered,
    address,
    seconds,
    load,
    runAt,
    seek,
    goTo,
    step,
    play,
    reorder,
    isLeft,
  }
})
