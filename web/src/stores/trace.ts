import { defineStore } from 'pinia'
import { computed, reactive, ref, shallowRef } from 'vue'

import { client, Refused, want } from '@/api/client'
import { fetchPreview, type TracePreview } from '@/api/previews'
import type { Proposal, StepDone, TraceValues } from '@/api/types'

/** The ways lines are found, in the order they are offered. */
export const MODES = ['dark', 'shades', 'colour', 'outside', 'centre', 'ink-fields'] as const
export type Mode = (typeof MODES)[number]
/** What a way of tracing is told beside darkness, smoothness and the smallest bit. */
export interface TraceOptions {
  colours: number | null
  shades: number
  with_darker: boolean
  background: boolean
  holes: boolean
  distance_mm: number
  underlap_mm: number
  on_top: boolean
}
const PLAIN: TraceOptions = {
  colours: null,
  shades: 3,
  with_darker: false,
  background: true,
  holes: false,
  distance_mm: 0,
  underlap_mm: 0,
  on_top: false,
}
export const OPTIONS: Record<Mode, (keyof TraceOptions)[]> = {
  dark: [],
  shades: ['shades', 'with_darker', 'background'],
  colour: ['colours', 'background', 'underlap_mm'],
  outside: ['distance_mm', 'holes'],
  centre: [],
  'ink-fields': ['colours', 'underlap_mm', 'on_top'],
}
const NAMES = ['threshold', 'smoothness_mm', 'smallest_mm2'] as const

/** The values of a step as it was kept: those that were set, and those that were chosen for it. */
function keptBy(step: StepDone | null): Partial<TraceValues> {
  return { ...(step?.figures as object), ...(step?.parameters as object) }
}

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
  const values = reactive<TraceValues>({ threshold: 0, smoothness_mm: 0, smallest_mm2: 0 })
  const mode = ref<Mode>('dark')
  const options = reactive<TraceOptions>({ ...PLAIN })
  const shown = shallowRef<TracePreview | null>(null)
  const problem = ref('')
  const waiting = ref(false)
  /** How far across the window the divider stands, from 0 to 1. */
  const split = ref(0.5)
  let number = 0
  let flying = false
  let next: boolean | null = null

  /** Begins: asks what the picture proposes, and shows that, or the step as it was kept. */
  async function open(of: { job: string; before: string; picture: string; step: StepDone | null }) {
    const turn = ++number
    job.value = of.job
    before.value = of.before
    picture.value = of.picture
    step.value = of.step
    proposal.value = null
    shown.value = null
    problem.value = ''
    try {
      const found = await want(
        client.POST('/api/jobs/{job}/trace/proposal', {
          params: { path: { job: of.job } },
          body: { document: of.before, picture: of.picture },
        }),
      )
      if (turn !== number) return
      proposal.value = found
      const kept = keptBy(of.step)
      for (const name of NAMES) values[name] = kept[name] ?? found[name]
      const given = (of.step?.parameters ?? {}) as Partial<TraceOptions> & { mode?: Mode }
      mode.value = given.mode && MODES.includes(given.mode) ? given.mode : 'dark'
      for (const name of Object.keys(PLAIN) as (keyof TraceOptions)[]) {
        Object.assign(options, { [name]: given[name] ?? PLAIN[name] })
      }
      ask(false)
    } catch (error) {
      if (turn === number) problem.value = error instanceof Refused ? error.sentence : String(error)
    }
  }

  /** Another picture of the same document. */
  function choose(identity: string) {
    return open({ job: job.value, before: before.value, picture: identity, step: step.value })
  }

  function close() {
    number++
    job.value = before.value = ''
    step.value = shown.value = proposal.value = null
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
      const preview = await fetchPreview(job.value, asked)
      if (preview && before.value === asked.document && preview.number > (shown.value?.number ?? 0)) {
        shown.value = preview
        problem.value = ''
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

  function set(name: keyof TraceValues, value: number, dragging: boolean) {
    values[name] = value
    ask(dragging)
  }

  /** What this way of tracing is told that is not as it is anyway. */
  function own(): Record<string, unknown> {
    const told = OPTIONS[mode.value].filter((name) => options[name] !== PLAIN[name])
    return Object.fromEntries(told.map((name) => [name, options[name]]))
  }

  function chooseMode(to: Mode) {
    mode.value = to
    ask(false)
  }

  function tell<K extends keyof TraceOptions>(name: K, value: TraceOptions[K]) {
    options[name] = value
    ask(false)
  }

  const changed = computed(() => {
    const kept = keptBy(step.value)
    if (!step.value || NAMES.some((name) => kept[name] !== values[name])) return true
    const given = step.value.parameters as Partial<TraceOptions> & { mode?: Mode }
    if ((given.mode ?? 'dark') !== mode.value) return true
    return OPTIONS[mode.value].some((name) => (given[name] ?? PLAIN[name]) !== options[name])
  })
  const parameters = () => ({ picture: picture.value, mode: mode.value, ...values, ...own() })

  return {
    job,
    before,
    step,
    picture,
    proposal,
    values,
    mode,
    options,
    shown,
    problem,
    waiting,
    split,
    changed,
    open,
    choose,
    chooseMode,
    tell,
    close,
    set,
    parameters,
  }
})
