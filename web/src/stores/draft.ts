import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'

import { Refused } from '@/api/client'
import { fetchDraft, type Draft } from '@/api/drafts'
import type { Operation, Parameter, Selection, StepDone } from '@/api/types'
import { applies } from '@/composables/sentence'
import { words } from '@/words'

import { useJob, type StepItem } from './job'
import { useLibrary } from './library'
import { usePicks } from './picks'

/** What would come of it for good is looked at when the hand has rested so long, in ms. */
const RESTED_MS = 250
export const ON = 'on'
const TAB = Math.random().toString(36).slice(2)
let asked = 0
/** The next number of a question of this tab. */
export const nextNumber = () => ++asked

type Values = Record<string, unknown>

/** A step that is being set up, new or reopened: its values, the pieces that it is for, and what it would do. */
export const useDraft = defineStore('draft', () => {
  const job = useJob()
  const library = useLibrary()
  const picks = usePicks()
  const operation = shallowRef<Operation | null>(null)
  /** The key of a kept step that is reopened. */
  const key = ref('')
  const values = shallowRef<Values>({})
  const selection = shallowRef<Selection>({})
  /** The role that what is picked next is for. */
  const role = ref(ON)
  const shown = shallowRef<Draft | null>(null)
  const problem = ref('')
  const waiting = ref(false)

  const fields = computed(() => operation.value?.parameters.filter((one) => applies(one, operation.value!, values.value)) ?? [])
  const pieces = computed(() => selection.value[ON]?.ids ?? [])

  function begin(id: string, given: Values = {}, of: Selection = picked()) {
    const found = library.operation(id)
    if (!found) return
    open(found, '', given, of)
  }
  function reopen(step: StepDone) {
    const found = library.operation(step.operation)
    if (found) open(found, step.key, step.parameters as Values, step.selection as Selection)
  }
  function open(found: Operation, of: string, given: Values, chosen: Selection) {
    operation.value = found
    key.value = of
    values.value = given
    selection.value = found.roles.length ? chosen : {}
    role.value = ON
    shown.value = null
    problem.value = ''
    ask(true)
  }
  const picked = (): Selection => (picks.pieces.length ? { [ON]: { ids: picks.pieces } } : {})

  function set(parameter: Parameter, value: unknown, resting = true) {
    const next = { ...values.value }
    for (const other of parameter.instead_of) delete next[other]
    if (value === undefined) delete next[parameter.name]
    else next[parameter.name] = value
    values.value = next
    ask(resting)
  }

  /** What is picked while a step is set up is what it is for, in the role that is asked for. */
  watch(
    () => picks.pieces,
    (now) => {
      if (!operation.value?.roles.length || key.value) return
      choose(now)
    },
  )
  function choose(ids: string[]) {
    const others = Object.fromEntries(Object.entries(selection.value).filter(([name]) => name !== role.value))
    selection.value = ids.length ? { ...others, [role.value]: { ids } } : others
    ask(true)
  }

  function clear() {
    operation.value = null
    key.value = ''
    shown.value = null
    problem.value = ''
    window.clearTimeout(timer)
  }

  const item = (): StepItem & { operation: string; parameters: Values; selection: Selection } => ({
    ...(key.value ? { key: key.value } : {}),
    operation: operation.value!.id,
    parameters: values.value,
    selection: selection.value,
  })

  async function keep(): Promise<boolean> {
    if (!operation.value || problem.value) return false
    picks.becomes(true)
    const done = await job.putStep(words.build.keeping(operation.value.title), item())
    if (done) clear()
    else picks.becomes(false)
    return done
  }

  let going = false
  let again = false
  let timer = 0
  /** Asks what the step would do now; one question at a time, then the newest. resting: with all that takes longer. */
  function ask(resting: boolean) {
    window.clearTimeout(timer)
    if (resting) timer = window.setTimeout(() => void answer(true), RESTED_MS)
    again = true
    if (!going) void answer(false)
  }
  async function answer(checked: boolean) {
    if (going) {
      again = true
      return
    }
    going = waiting.value = true
    again = false
    const of = operation.value
    try {
      const based_on = job.head?.id
      if (!of || !based_on || !job.job) return
      const found = await fetchDraft(job.job.id, { based_on, step: item(), checked, tab: TAB, number: nextNumber() })
      if (of !== operation.value || !found) return
      // What was looked at for longer stays until it is looked at again.
      shown.value = checked || !shown.value ? found : { ...found, findings: shown.value.findings }
      problem.value = ''
    } catch (error) {
      if (of !== operation.value) return
      shown.value = null
      problem.value = error instanceof Refused ? error.sentence : String(error)
    } finally {
      going = waiting.value = false
      if (again && operation.value) void answer(false)
    }
  }
  // What was set up on another state is looked at again on this one.
  watch(
    () => job.head?.id,
    () => operation.value && ask(true),
  )

  return {
    operation, key, values, selection, role, shown, problem, waiting, fields, pieces,
    begin, reopen, set, choose, clear, keep, item,
  }
})
