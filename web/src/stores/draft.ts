import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'

import { Refused } from '@/api/client'
import { fetchDraft, type Draft } from '@/api/drafts'
import type { Operation, Parameter, Selection, StepDone } from '@/api/types'
import { withMoved } from '@/canvas/moved'
import { applies } from '@/composables/sentence'
import { words } from '@/words'

import { useDrawing } from './drawing'
import { useJob, type StepItem } from './job'
import { useLibrary } from './library'
import { usePicks } from './picks'

/** What would come of it for good is looked at when the hand has rested so long, in ms. */
const RESTED_MS = 250
export const ON = 'on'
/** The operation whose steps are gestures on nodes. */
export const NODES = 'nodes'
/** Operations that size the whole design, and the one that does so by features. */
export const BY_FEATURE = 'size-by'
export const SIZING = ['resize', BY_FEATURE]
const TAB = Math.random().toString(36).slice(2)
let asked = 0
/** The next number of a question of this tab. */
export const nextNumber = () => ++asked

/** The query for all that a step makes, and the key of that step in one. */
const MADE = 'made '
export const madeBy = (query?: string) => (query?.startsWith(MADE) ? query.slice(MADE.length) : '')

/** Of a step that cannot be shown beforehand, though it may well be done. */
const NOT_SHOWN = 'not-shown'

type Values = Record<string, unknown>
interface Next {
  operation: string
  values: Values
}

/** A step that is being set up, new or reopened: its values, the pieces that it is for, and what it would do. */
export const useDraft = defineStore('draft', () => {
  const job = useJob()
  const library = useLibrary()
  const picks = usePicks()
  const drawing = useDrawing()
  const operation = shallowRef<Operation | null>(null)
  /** The key of a kept step that is reopened. */
  const key = ref('')
  const values = shallowRef<Values>({})
  const selection = shallowRef<Selection>({})
  /** The role that what is picked next is for. */
  const role = ref(ON)
  const shown = shallowRef<Draft | null>(null)
  /** Why the step cannot be done; and why it cannot be shown beforehand, which is no reason not to keep it. */
  const problem = ref('')
  const unseen = ref('')
  const waiting = ref(false)
  /** The parameter whose choices are shown in full, where they need room. */
  const choosing = ref('')
  /** The part of the step that is taken hold of, by the id of its spot on the work. */
  const spot = ref('')
  /** The parameter whose places are set on the work by clicks. */
  const setting = ref('')
  /** It was proposed by a station: no field of it takes the keys. */
  const unasked = ref(false)
  /** The first end of a line that is set on the work. */
  const firstEnd = shallowRef<[number, number] | null>(null)
  /** The steps that keep their numbers while this one sizes the design. */
  const kept = shallowRef<string[]>([])

  const fields = computed(() => operation.value?.parameters.filter((one) => applies(one, operation.value!, values.value)) ?? [])
  const pieces = computed(() => {
    const chosen = selection.value[ON]
    const made = madeBy(chosen?.query)
    return chosen?.ids ?? (made ? drawing.inUse.flatMap(({ piece }) => (piece.id.startsWith(`${made}:`) ? [piece.id] : [])) : [])
  })
  /** What has to be typed before there is anything to look at. */
  const isMissing = (one: Parameter) => {
    if (one.by_press) return !values.value[one.name]
    return (
      one.required &&
      (one.kind === 'places' ? placesOf(one.name).length < 2 : one.kind === 'text' && !String(values.value[one.name] ?? '').trim())
    )
  }
  const missing = computed(() => fields.value.find(isMissing) ?? null)
  /** What a press on the work sets is asked for as soon as it is wanted. */
  function wantPress() {
    firstEnd.value = null
    const wanted = fields.value.find((one) => one.by_press && !values.value[one.name])
    if (wanted) setting.value = wanted.name
    else if (fields.value.every((one) => one.name !== setting.value || one.by_press)) setting.value = ''
  }

  /** after: what is set up when this step is kept. */
  function begin(id: string, given: Values = {}, after: Next | null = null) {
    const found = library.operation(id)
    const last = job.head?.steps.at(-1)
    // Gestures that follow each other are one step.
    if (id === NODES && last?.operation === NODES && !last.stopped) return reopen(last)
    if (found) open(found, '', given, picked(found))
    next = after
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
    problem.value = unseen.value = ''
    opened++
    choosing.value = ''
    spot.value = ''
    setting.value = found.parameters.find((one) => one.kind === 'places' && one.required)?.name ?? ''
    kept.value = []
    unasked.value = false
    wantPress()
    ask(true)
  }
  /** What is picked, in the role that a step asks for first; all that a step of words makes by that step, so that it
   * holds for the words as they will be. */
  function picked(of: Operation): Selection {
    const own = of.roles.find((one) => one.id === ON) ?? of.roles[0]
    if (!picks.pieces.length || !own) return {}
    const step = picks.made()
    return { [own.id]: step ? { query: MADE + step } : { ids: picks.pieces } }
  }

  function set(parameter: Parameter, value: unknown, resting = true) {
    const next = { ...values.value }
    for (const other of parameter.instead_of) delete next[other]
    if (value === undefined) delete next[parameter.name]
    else next[parameter.name] = value
    values.value = next
    wantPress()
    ask(resting)
  }
  /** Values all at once, those that are undefined let go of. */
  function setAll(given: Values) {
    values.value = Object.fromEntries(Object.entries({ ...values.value, ...given }).filter(([, value]) => value !== undefined))
    wantPress()
    ask(true)
  }
  function keepNumbers(keys: string[]) {
    kept.value = keys
    ask(true)
  }
  /** A press on the work while a place is asked for; near: what is near it. */
  function put(near: [number, number], there: [number, number]) {
    const one = operation.value?.parameters.find((each) => each.name === setting.value)
    if (!one) return
    if (one.kind === 'places') return setPlaces(one.name, [...placesOf(one.name), near])
    setting.value = ''
    if (one.kind === 'point') return set(one, there.map(fine))
    if (firstEnd.value) return set(one, [...firstEnd.value, ...near].map(fine))
    setting.value = one.name
    firstEnd.value = near
  }
  const fine = (value: number) => Math.round(value * 1000) / 1000

  /** Places of a parameter, as they are now. */
  const placesOf = (name: string) => (values.value[name] ?? []) as [number, number][]
  function setPlaces(name: string, places: [number, number][], resting = true) {
    const parameter = operation.value?.parameters.find((one) => one.name === name)
    if (parameter) set(parameter, places.length ? places.map((place) => place.map(fine)) : undefined, resting)
  }
  /** Spots on the work of which some are picked. */
  const spotted = computed(() => operation.value?.parameters.find((one) => one.kind === 'spots') ?? null)
  const pickedSpots = computed(() => new Set(((spotted.value && values.value[spotted.value.name]) ?? []) as string[]))
  function pickSpot(id: string) {
    if (!spotted.value) return
    const others = [...pickedSpots.value].filter((other) => other !== id)
    const next = pickedSpots.value.has(id) ? others : [...others, id]
    set(spotted.value, next.length ? next : undefined)
  }

  /** What is picked while a step is set up is what it is for, in the role that is asked for. */
  watch(
    () => picks.pieces,
    (now) => {
      if (key.value || !operation.value?.roles.some((one) => one.id === role.value)) return
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
    next = null
    again = false
    opened++
    key.value = ''
    shown.value = null
    problem.value = unseen.value = ''
    window.clearTimeout(timer)
  }

  const item = (): StepItem & { operation: string; parameters: Values; selection: Selection } => ({
    ...(key.value ? { key: key.value } : {}),
    operation: operation.value!.id,
    parameters: values.value,
    selection: selection.value,
    ...(kept.value.length ? { kept: kept.value } : {}),
  })

  async function keep(): Promise<boolean> {
    const mine = opened
    await settled()
    if (mine !== opened || !operation.value || problem.value || missing.value) return false
    const typed = String(values.value.text ?? '')
    const what = words.build.keeping(operation.value.title)
    const made = item()
    const after = next
    // What was kept just before may still be under way.
    await job.quiet()
    picks.becomes(true)
    const done = await job.putStep(what, made)
    if (!done) picks.becomes(false)
    else if (mine === opened) clear()
    if (done && after) begin(after.operation, after.values)
    // A job that began with nothing is called by its first words.
    if (done && typed.trim() && job.job?.name === words.lettering.newJob) await job.rename(typed.trim().split('\n')[0].slice(0, 60))
    return done
  }

  /** The answer to what was typed last is there. */
  async function settled() {
    while (going || again) await new Promise((done) => window.setTimeout(done, 10))
  }

  let next: Next | null = null
  /** Counts up with whatever is set up next, or let go of. */
  let opened = 0
  let going = false
  let again = false
  let timer = 0
  /** Asks what the step would do now; one question at a time, then the newest. resting: with all that takes longer. */
  function ask(resting: boolean) {
    window.clearTimeout(timer)
    if (missing.value) {
      shown.value = null
      problem.value = unseen.value = ''
      return
    }
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
      const answered = await fetchDraft(job.job.id, { based_on, step: item(), checked, tab: TAB, number: nextNumber() })
      if (of !== operation.value || !answered) return
      const found = withMoved(answered, drawing.drawn)
      // What was looked at for longer stays until it is looked at again.
      shown.value = checked || !shown.value ? found : { ...found, findings: shown.value.findings, verdict: shown.value.verdict }
      problem.value = unseen.value = ''
    } catch (error) {
      if (of !== operation.value) return
      shown.value = null
      const refused = error instanceof Refused && error.status < 500 && error.code !== NOT_SHOWN
      const sentence = error instanceof Refused ? error.sentence : words.offline.noAnswer
      problem.value = refused ? sentence : ''
      unseen.value = refused ? '' : sentence
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
    operation,
    key,
    values,
    selection,
    role,
    shown,
    problem,
    unseen,
    waiting,
    choosing,
    spot,
    setting,
    unasked,
    firstEnd,
    kept,
    fields,
    pieces,
    missing,
    placesOf,
    setPlaces,
    spotted,
    pickedSpots,
    pickSpot,
    begin,
    reopen,
    set,
    setAll,
    keepNumbers,
    put,
    choose,
    clear,
    keep,
    item,
  }
})
