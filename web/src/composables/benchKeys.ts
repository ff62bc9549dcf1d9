import { watch, type Ref } from 'vue'
import { useRouter } from 'vue-router'

import type { Station } from '@/api/types'
import { STATIONS } from '@/bench/stations'
import { useBench } from '@/stores/bench'
import { useDrawing } from '@/stores/drawing'
import { useJob } from '@/stores/job'
import { usePicks, type Level } from '@/stores/picks'
import { useTrace } from '@/stores/trace'
import { useTraceTool } from '@/stores/traceTool'
import { useWorking } from '@/stores/working'
import { words } from '@/words'

import { useKeys } from './keys'

/** What the keys move on the work. */
interface Work {
  showAll: () => void
  zoom: (factor: number) => void
}

const LEVELS: Level[] = ['piece', 'outline', 'node']
const NEARER = 1.4

/** The keys of the bench; words.help lists them. */
export function useBenchKeys(job: () => string, station: Ref<Station>, work: Ref<Work | null>) {
  const bench = useBench()
  const jobs = useJob()
  const drawing = useDrawing()
  const picks = usePicks()
  const trace = useTrace()
  const tools = useTraceTool()
  const working = useWorking()
  const router = useRouter()

  /** The station before or after this one, of those on the route; the page may still be on its way to that. */
  let heading = ''
  watch(station, () => (heading = ''))
  function toStation(by: 1 | -1) {
    const there = STATIONS.filter((one) => one.id !== 'trace' || station.value === 'trace' || drawing.drawing?.pictures.length)
    const next = there[there.findIndex((one) => one.id === (heading || station.value)) + by]
    if (!next) return
    heading = next.id
    void router.push({ name: 'bench', params: { job: job(), station: next.id } })
  }

  /** What is out is put away, one thing after the other. */
  function putAway() {
    if (bench.ruler) bench.ruler = false
    else if (bench.loupe) bench.loupe = false
    else if (picks.picks.length) picks.clear()
    else if (bench.reopened) bench.reopened = ''
    else if (bench.second) bench.compare(null)
    else bench.list = false
  }

  /** To the next of what is there: a run, a piece of a trace, a pick. */
  function step(by: 1 | -1) {
    if (station.value === 'proof') working.step(by)
    else if (trace.before) tools.step(by)
    else picks.step(by)
  }

  /** What is picked goes; while a picture is traced, the piece that is pointed at. */
  function remove() {
    if (trace.before) tools.use()
    else if (picks.pieces.length && !jobs.busy) void jobs.addStep(words.picked.removing, 'remove', {}, picks.pieces)
  }

  useKeys({
    '1': () => (bench.look = 'art'),
    '2': () => (bench.look = 'lines'),
    '3': () => (bench.look = 'weeded'),
    '4': () => (bench.look = 'spread'),
    c: bench.toggleCompare,
    l: () => (bench.list = !bench.list),
    g: () => (bench.loupe = !bench.loupe),
    r: () => (bench.ruler = !bench.ruler),
    ',': () => step(-1),
    '.': () => step(1),
    p: () => station.value === 'proof' && working.play(),
    delete: remove,
    backspace: remove,
    o: () => (picks.level = LEVELS[(LEVELS.indexOf(picks.level) + 1) % LEVELS.length]),
    h: () => picks.pieces.length && void jobs.setPieces(words.picked.hiding, picks.pieces, { hidden: true }),
    '[': () => toStation(-1),
    ']': () => toStation(1),
    '0': () => work.value?.showAll(),
    '+': () => work.value?.zoom(NEARER),
    '=': () => work.value?.zoom(NEARER),
    '-': () => work.value?.zoom(1 / NEARER),
    escape: putAway,
    'ctrl+a': () => picks.pickAll(),
    'ctrl+z': () => jobs.job?.can_undo && void jobs.move('undo'),
    'ctrl+shift+z': () => jobs.job?.can_redo && void jobs.move('redo'),
    'ctrl+y': () => jobs.job?.can_redo && void jobs.move('redo'),
  })
}
