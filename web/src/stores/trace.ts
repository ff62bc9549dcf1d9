import { defineStore } from 'pinia'
import { computed, reactive, ref, shallowRef } from 'vue'

import { client, Refused, want } from '@/api/client'
import { fetchPreview, type TracePreview } from '@/api/previews'
import type { Proposal, StepDone, TraceValues } from '@/api/types'

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
    const asked = { ...values, document: before.value, picture: picture.value, coarse, tab, number: mine }
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

  const changed = computed(() => {
    const kept = keptBy(step.value)
    return !step.value || NAMES.some((name) => kept[name] !== values[name])
  })
  const parameters = () => ({ picture: picture.value, mode: 'dark', ...values })

  return { job, before, step, picture, proposal, values, shown, problem, waiting, split, changed, open, choose, close, set, parameters }
})
