import { defineStore } from 'pinia'
import { computed, reactive, ref, shallowRef } from 'vue'

import { client, Refused, want } from '@/api/client'
import { fetchPreview, type TracePreview } from '@/api/previews'
import type { Measured, Proposal, Revision, StepDone, Tiles, TraceValues, Way } from '@/api/types'

import { modeOf, optionsOf, ownOptions, plain, type Mode, type OptionName, type TraceOptions } from './traceOptions'

const VALUES = ['threshold', 'smoothness_mm', 'smallest_mm2'] as const
/** A trace that is held to be compared with what is set now. */
export interface HeldTrace {
  shown: TracePreview
  values: TraceValues
  mode: Mode
  options: TraceOptions
}
type Bears = Revision['held']['bears']
const copied = <T>(value: T): T => JSON.parse(JSON.stringify(value))

/** The trace that is being set up: what is proposed, what is set, and what it would give. Nothing of it is kept until
 *  somebody says so. */
export const useTrace = defineStore('trace', () => {
  const tab = Math.random().toString(36).slice(2)
  const job = ref('')
  /** The document that the trace begins from, and the step that is being changed, if it is one. */
  const before = ref('')
  const step = shallowRef<StepDone | null>(null)
  const picture = ref('')
  const proposal = shallowRef<Proposal | null>(null)
  const tiles = shallowRef<Tiles | null>(null)
  const values = reactive<TraceValues>({ threshold: null, smoothness_mm: null, smallest_mm2: null })
  const mode = ref<Mode>('dark')
  const options = reactive<TraceOptions>(plain())
  const shown = shallowRef<TracePreview | null>(null)
  /** What the picture gave where nothing was typed, of the last exact answer. */
  const chosen = shallowRef<Record<string, number>>({})
  const proposed = shallowRef<Record<string, number>>({})
  const measured = shallowRef<Measured | null>(null)
  const held = shallowRef<HeldTrace | null>(null)
  const problem = ref('')
  const waiting = ref(false)
  /** How far across the window the divider stands, from 0 to 1. */
  const split = ref(0.5)
  let number = 0
  let flying = false
  let next: boolean | null = null
  /** What the material bears; what is thinner is told, as the check will find it. */
  let bears: Bears | null = null

  /** Begins: asks what the picture proposes, and shows that, or the step as it was kept. */
  async function open(of: {
    job: string
    before: string
    picture: string
    step: StepDone | null
    bears?: Bears
    lines?: TraceOptions['lines']
  }) {
    const turn = ++number
    job.value = of.job
    before.value = of.before
    picture.value = of.picture
    step.value = of.step
    bears = of.bears ?? null
    proposal.value = shown.value = measured.value = held.value = tiles.value = null
    chosen.value = proposed.value = {}
    problem.value = ''
    try {
      const body = { document: of.before, picture: of.picture }
      const params = { path: { job: of.job } }
      const found = await want(client.POST('/api/jobs/{job}/trace/proposal', { params, body }))
      if (turn !== number) return
      proposal.value = found
      const [way] = found.ways
      const kept = (of.step?.parameters ?? {}) as Partial<TraceValues>
      for (const name of VALUES) values[name] = kept[name] ?? null
      mode.value = modeOf(of.step) ?? ((way?.mode as Mode) || 'dark')
      Object.assign(options, optionsOf(of.step), of.step ? {} : { ...way?.told, lines: of.lines ?? 'draw' })
      ask(false)
      void paintTiles(found.ways)
    } catch (error) {
      if (turn === number) problem.value = error instanceof Refused ? error.sentence : String(error)
    }
  }

  /** Small pictures of all ways of tracing. That none come is no fault: the ways have names. */
  async function paintTiles(ways: Way[]) {
    const of = before.value
    const told = Object.fromEntries(ways.map((way) => [way.mode, way.told]))
    const body = { document: of, picture: picture.value, told }
    const made = await client.POST('/api/jobs/{job}/trace/tiles', { params: { path: { job: job.value } }, body })
    if (made.data && before.value === of) tiles.value = made.data
  }

  function close() {
    number++
    job.value = before.value = ''
    step.value = shown.value = proposal.value = measured.value = held.value = tiles.value = null
    problem.value = ''
  }

  /** Asks for a preview: coarse while something is dragged. One question is on its way at a time, and the newest wish
   *  follows it; an answer older than what is painted is never painted. */
  function ask(coarse: boolean) {
    if (flying) {
      next = coarse
      return
    }
    void fly(coarse)
  }

  async function fly(coarse: boolean) {
    const mine = ++number
    const asked = { ...values, mode: mode.value, options: own(), document: before.value, picture: picture.value, coarse, tab, number: mine }
    flying = waiting.value = true
    try {
      const preview = await fetchPreview(job.value, copied(asked))
      if (preview && before.value === asked.document && preview.number > (shown.value?.number ?? 0)) {
        shown.value = preview
        problem.value = ''
        if (!preview.coarse) {
          // A way that finds nothing chooses nothing: what another one chose stays.
          chosen.value = { ...chosen.value, ...preview.chosen }
          proposed.value = preview.proposed
          void measure(preview)
        }
      }
    } catch (error) {
      // The last good trace stays where it is.
      if (before.value === asked.document) problem.value = error instanceof Refused ? error.sentence : String(error)
    }
    flying = false
    if (next !== null && before.value) {
      const wish = next
      next = null
      void fly(wish)
    } else {
      next = null
      waiting.value = false
    }
  }

  /** Where what is shown is too thin for its material. */
  async function measure(preview: TracePreview) {
    if (!bears) return
    const params = { path: { job: job.value } }
    const { least_strip_mm, least_gap_mm, least_piece_mm2 } = bears
    const body = { tab, number: preview.number, strip_mm: least_strip_mm, gap_mm: least_gap_mm, piece_mm2: least_piece_mm2 }
    const { data } = await client.POST('/api/jobs/{job}/trace/measure', { params, body })
    if (shown.value === preview) measured.value = data ?? null
  }

  /** Null: what the picture proposes. */
  function set(name: keyof TraceValues, value: number | null, dragging: boolean) {
    values[name] = value
    ask(dragging)
  }
  /** Not a number where nothing is known of the picture yet. */
  const value = (name: keyof TraceValues) => values[name] ?? chosen.value[name] ?? NaN

  const own = () => ownOptions(mode.value, options)

  /** What the picture proposes for a way of tracing. */
  const proposedFor = (of: Mode) => proposal.value?.ways.find((way) => way.mode === of)?.told ?? proposal.value?.always ?? {}

  /** Another way of tracing has other pieces and layers, of which nothing is wished yet. */
  function chooseMode(to: Mode, told?: Way['told']) {
    mode.value = to
    const { dropped, kept, moved, joined, left_out, given } = plain()
    Object.assign(options, { dropped, kept, moved, joined, left_out, given })
    Object.assign(options, told ?? proposedFor(to))
    ask(false)
  }

  function tell<K extends OptionName>(name: K, value: TraceOptions[K]) {
    options[name] = value
    ask(false)
  }
  /** Everything of these as the picture proposes it, or as it is anyway. */
  function reset(...names: OptionName[]) {
    const as = { ...plain(), ...proposedFor(mode.value) } as TraceOptions
    Object.assign(options, Object.fromEntries(names.map((name) => [name, as[name]])))
    ask(false)
  }

  /** Holds what is shown, to be compared with what is set from now on. */
  function hold() {
    if (shown.value) held.value = { shown: shown.value, values: { ...values }, mode: mode.value, options: copied(options) }
  }
  /** What is held is set, and what was set is held. */
  function swap() {
    const other = held.value
    if (!other) return
    hold()
    Object.assign(values, other.values)
    mode.value = other.mode
    Object.assign(options, copied(other.options))
    ask(false)
  }
  const letGo = () => (held.value = null)

  const changed = computed(() => {
    if (!step.value) return true
    const kept = (step.value.parameters ?? {}) as Partial<TraceValues>
    if (VALUES.some((name) => (kept[name] ?? null) !== values[name])) return true
    const was = modeOf(step.value)!
    return was !== mode.value || JSON.stringify(ownOptions(was, optionsOf(step.value))) !== JSON.stringify(own())
  })
  const parameters = (of = picture.value) => copied({ picture: of, mode: mode.value, ...values, ...own() })

  return {
    job,
    before,
    step,
    picture,
    proposal,
    tiles,
    values,
    value,
    mode,
    options,
    shown,
    chosen,
    proposed,
    measured,
    held,
    problem,
    waiting,
    split,
    changed,
    open,
    chooseMode,
    tell,
    reset,
    hold,
    swap,
    letGo,
    close,
    set,
    parameters,
  }
})
