import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'

import { client, formOf, Refused, want } from '@/api/client'
import { follow, jobAfter, stop, Stopped } from '@/api/runs'
import type { Finding, Job, Run, Selection, Settings, StepDone } from '@/api/types'
import { words } from '@/words'

import type { Coming } from './intake'
import { useLibrary } from './library'

type Work = () => Promise<Job | Run>

/** What can be set of a layer and changes nothing of what is made. */
const FOR_THE_EYE = ['hidden', 'locked']
/** What could not be sent is tried again so often, in ms. */
const AGAIN_MS = 3000

export interface StepItem {
  key?: string
  operation?: string
  parameters?: Record<string, unknown>
  selection?: Selection
  enabled?: boolean
  repair?: boolean
  /** Of a step that sizes the design: the keys of those that keep their numbers. */
  kept?: string[]
}

/** The job on the bench: its head, its findings, and every way to change it. Each change is kept as it is made. */
export const useJob = defineStore('job', () => {
  const job = shallowRef<Job | null>(null)
  const findings = shallowRef<Finding[]>([])
  const busy = ref('')
  /** The work that the job waits for, and the one that looks for faults. */
  const run = shallowRef<Run | null>(null)
  const checking = shallowRef<Run | null>(null)
  /** Why the design on the bench could not be looked at for faults. */
  const unchecked = ref('')
  /** Counts up whenever another job comes to the bench: what comes back for the one before is not shown. */
  let turn = 0
  const problem = ref('')
  /** What was being done when another window had been quicker; doing it again is on top of what is there now. */
  const overtaken = shallowRef<(() => Promise<void>) | null>(null)

  /** What was done while nobody answered; it is sent again, and nothing of it is lost meanwhile. */
  const unsent = shallowRef<{ what: string; work: Work }[]>([])

  const head = computed(() => job.value?.head)
  const open = computed(() => findings.value.filter((f) => !f.set_aside))
  const aside = computed(() => findings.value.filter((f) => f.set_aside))

  async function show(next: Job) {
    const same = job.value?.id === next.id && job.value.head.id === next.head.id
    const found = same && !unchecked.value ? findings.value : await askFindings(next.id, next.head.id).catch(sentenceOf)
    job.value = next
    // What is still looked for is about the head before.
    if (!same) checking.value = null
    take(next.head.id, found)
  }

  const sentenceOf = (error: unknown) => (error instanceof Refused ? error.sentence : String(error))
  /** What was found, the work that looks for it, or why nothing is known. */
  function take(revision: number, found: Finding[] | Run | string) {
    unchecked.value = typeof found === 'string' ? found : ''
    if (Array.isArray(found)) findings.value = found
    else if (typeof found === 'string') findings.value = []
    else void findLater(revision, found)
  }
  /** Looks for faults again, where that failed. */
  async function recheck() {
    const revision = head.value?.id
    if (!revision) return
    const found = await askFindings(job.value!.id, revision).catch(sentenceOf)
    if (head.value?.id === revision) take(revision, found)
  }

  const askFindings = (of: string, revision: number) =>
    want(client.GET('/api/jobs/{job}/revisions/{revision}/findings', { params: { path: { job: of, revision } } }))

  /** The findings of a large design, after the work that looks for them; meanwhile the design is there. */
  async function findLater(revision: number, looking: Run) {
    const of = job.value!.id
    const still = () => job.value?.head.id === revision
    findings.value = []
    checking.value = looking
    try {
      await follow(looking, (now) => still() && (checking.value = now))
      const found = await askFindings(of, revision)
      if (still() && Array.isArray(found)) findings.value = found
    } catch (error) {
      if (still()) unchecked.value = sentenceOf(error)
    } finally {
      if (still()) checking.value = null
    }
  }

  /** Runs one piece of work: says what is going on, and turns what goes wrong into a sentence. */
  async function act(what: string, work: Work): Promise<boolean> {
    if (busy.value) return false
    const mine = turn
    busy.value = what
    problem.value = ''
    try {
      const next = await jobAfter(await work(), (now) => {
        if (mine === turn) run.value = now
      })
      if (mine !== turn) return false
      run.value = null
      await show(next)
      return true
    } catch (error) {
      if (mine !== turn || error instanceof Stopped) return false
      if (error instanceof Refused && error.code === 'no-answer' && job.value) {
        hold(what, work)
      } else if (error instanceof Refused && error.code === 'changed-meanwhile') {
        overtaken.value = async () => {
          overtaken.value = null
          await refresh()
          await act(what, work)
        }
      } else {
        problem.value = error instanceof Refused ? error.sentence : String(error)
      }
      return false
    } finally {
      if (mine === turn) {
        busy.value = ''
        run.value = null
      }
    }
  }

  /** What nobody answered last. */
  let lost: Work | null = null
  let timer = 0
  /** Keeps what could not be sent, after what waits already, and tries it again. */
  function hold(what: string, work: Work) {
    lost = work
    if (!unsent.value.some((one) => one.work === work)) unsent.value = [...unsent.value, { what, work }]
    window.clearTimeout(timer)
    timer = window.setTimeout(() => void sendAgain(), AGAIN_MS)
  }
  /** Sends what waits, one after the other, until nobody answers. */
  async function sendAgain() {
    window.clearTimeout(timer)
    const [first] = unsent.value
    if (!first) return
    if (busy.value) return void (timer = window.setTimeout(() => void sendAgain(), AGAIN_MS))
    lost = null
    await act(first.what, first.work)
    if (lost === first.work) return
    letGo(first)
    await sendAgain()
  }
  const letGo = (one: { work: Work }) => (unsent.value = unsent.value.filter((other) => other.work !== one.work))

  /** Stops the work that the job waits for; the job stays as it is. */
  async function halt() {
    const now = run.value
    if (now) await stop(now).catch((error) => (problem.value = error instanceof Refused ? error.sentence : String(error)))
  }

  /** What is there so far is enough: the work that the job waits for ends with that. */
  async function settle() {
    const now = run.value
    if (!now?.job) return
    const asked = client.POST('/api/jobs/{job}/runs/{run}/settle', { params: { path: { job: now.job, run: now.id } } })
    await want(asked).catch((error) => (problem.value = error instanceof Refused ? error.sentence : String(error)))
  }

  const path = () => ({ path: { job: job.value!.id } })

  /** Nothing is under way. */
  const quiet = () =>
    new Promise<void>((done) => {
      if (!busy.value) return done()
      const watching = watch(busy, (now) => {
        if (now) return
        watching()
        done()
      })
    })

  async function load(id: string) {
    if (job.value?.id !== id) {
      turn++
      job.value = run.value = checking.value = null
      findings.value = []
      busy.value = problem.value = unchecked.value = ''
      unsent.value = []
    }
    overtaken.value = null
    // Whoever comes back while a change is still under way sees what is there after it.
    await quiet()
    if (job.value && job.value.id !== id) return false
    const done = await act(words.busy.opening, () => want(client.GET('/api/jobs/{job}', { params: { path: { job: id } } })))
    // Work that was going on when the page was closed is followed on.
    const going = job.value?.run
    if (done && going) void act(words.busy.goingOn, async () => going)
    return done
  }

  function refresh() {
    const id = job.value?.id
    return id ? load(id) : Promise.resolve(false)
  }

  /** Brings a file in; replaces is the step of an older version of it, whose place it takes. */
  function bringIn(coming: Coming, replaces?: string) {
    return act(words.busy.reading(coming.name), () => {
      const { file, staged } = coming
      const body = { file: file as never, staged, replaces, based_on: job.value!.head.id }
      return want(client.POST('/api/jobs/{job}/sources', { params: path(), body, bodySerializer: () => formOf({ ...body, file }) }))
    })
  }

  function revise(what: string, steps: (kept: StepItem[]) => StepItem[], settings?: () => Settings) {
    // By its token a change that is sent again is known, should it have arrived the first time.
    const token = crypto.randomUUID?.() ?? `${Date.now()}-${Math.random()}`
    return act(what, () => {
      const kept = job.value!.head.steps.map((step) => ({ key: step.key }))
      return want(
        client.POST('/api/jobs/{job}/revisions', {
          params: path(),
          body: { based_on: job.value!.head.id, steps: steps(kept), settings: settings?.(), token },
        }),
      )
    })
  }

  /** A new step; pieces: what it is for. */
  const addStep = (what: string, operation: string, parameters: Record<string, unknown>, pieces?: string[]) =>
    revise(what, (kept) => [...kept, { operation, parameters, selection: pieces ? { on: { ids: pieces } } : {} }])

  /** A step as it was set up, new or in the place of the one of its key. */
  const putStep = (what: string, item: StepItem) =>
    revise(what, (kept) => (item.key ? kept.map((s) => (s.key === item.key ? item : s)) : [...kept, item]))

  const switchStep = (key: string, enabled: boolean) =>
    revise(words.busy.steps, (kept) => kept.map((s) => (s.key === key ? { ...s, enabled } : s)))

  const changeStep = (what: string, key: string, parameters: Record<string, unknown>) =>
    revise(what, (kept) => kept.map((s) => (s.key === key ? { ...s, parameters } : s)))

  const repairStep = (key: string) => revise(words.busy.repairing, (kept) => kept.map((s) => (s.key === key ? { ...s, repair: true } : s)))

  /** Moves a step one place up or down; refused where a step would then stop. */
  const moveStep = (key: string, by: -1 | 1) =>
    revise(words.busy.order, (kept) => {
      const at = kept.findIndex((s) => s.key === key)
      const others = kept.filter((s) => s.key !== key)
      return [...others.slice(0, at + by), kept[at], ...others.slice(at + by)]
    })

  /** A job of its own with the same files and steps, all of them or those up to one; its id. */
  async function copy(name?: string, until?: string): Promise<string | null> {
    try {
      const made = await want(client.POST('/api/jobs/{job}/copies', { params: path(), body: { name, until } }))
      return made.id
    } catch (error) {
      problem.value = error instanceof Refused ? error.sentence : String(error)
      return null
    }
  }

  const dropStep = (key: string) => revise(words.busy.steps, (kept) => kept.filter((s) => s.key !== key))

  const set = (what: string, settings: () => Settings) =>
    revise(
      what,
      (kept) => kept,
      () => fromLists(settings()),
    )

  const library = useLibrary()
  /** What is chosen is chosen from the lists as they are now. */
  function fromLists(settings: Settings): Settings {
    const chosen = settings.material || settings.machine || settings.purpose || settings.target
    return chosen && library.library.lists ? { ...settings, lists: library.library.lists } : settings
  }

  type OfPiece = NonNullable<Settings['pieces']>[string]
  /** What is kept of pieces beside the steps: names, and what is hidden, locked or marked. */
  function setPieces(what: string, pieces: string[], values: OfPiece) {
    return set(what, () => {
      const before = head.value!.settings.pieces ?? {}
      return { pieces: { ...before, ...Object.fromEntries(pieces.map((id) => [id, { ...before[id], ...values }])) } }
    })
  }

  const hiddenPieces = computed(() => {
    const { pieces = {}, layers = {} } = head.value?.settings ?? {}
    return [...Object.values(pieces), ...Object.values(layers)].filter((one) => one.hidden).length
  })
  /** Shows all layers and pieces that are hidden. */
  function showAll() {
    const shown = <T extends { hidden?: boolean }>(all: Record<string, T> = {}) =>
      Object.fromEntries(Object.entries(all).map(([id, one]) => [id, { ...one, hidden: false }]))
    return set(words.busy.showing, () => ({ pieces: shown(head.value!.settings.pieces), layers: shown(head.value!.settings.layers) }))
  }

  type Seen = NonNullable<Settings['layers']>[string]
  type OfLayer = Seen & { name?: string; color?: string; treatment?: string; material?: string; mirrored?: boolean }
  /** Sets a layer anew. What is hidden or locked is for the eye and the hand; the rest is a step, and what is said of one
   * layer in a row is one step. */
  function setLayer(what: string, layer: string, values: OfLayer) {
    const made = Object.fromEntries(Object.entries(values).filter(([name]) => !FOR_THE_EYE.includes(name)))
    if (!Object.keys(made).length) {
      return set(what, () => {
        const before = head.value!.settings.layers ?? {}
        return { layers: { ...before, [layer]: { ...before[layer], ...values } } }
      })
    }
    const last = head.value!.steps.at(-1)
    const folds = last?.operation === 'layer' && last.enabled && (last.parameters as { layer: string }).layer === layer
    const lists = values.material && library.library.lists ? { lists: library.library.lists } : undefined
    const steps = (kept: StepItem[]): StepItem[] =>
      folds
        ? [...kept.slice(0, -1), { key: last.key, parameters: { ...(last.parameters as object), ...made } }]
        : [...kept, { operation: 'layer', parameters: { layer, ...made } }]
    return revise(what, steps, lists && (() => lists))
  }

  function setAside(key: string, away: boolean) {
    return set(words.busy.aside, () => {
      const before = head.value?.settings.set_aside ?? []
      return { set_aside: away ? [...before, key] : before.filter((k) => k !== key) }
    })
  }

  const asideOf = (step: StepDone) => `size:${step.key}`
  /** Files whose size may be wrong, of which nobody has said that it is right. */
  const doubted = computed(() => {
    const away = head.value?.settings.set_aside ?? []
    return (head.value?.steps ?? []).filter((s) => s.enabled && s.source?.doubt && !away.includes(asideOf(s)))
  })
  /** Whoever says that a file's size is right is not asked again. */
  function sizeIsRight(step: StepDone) {
    const said = findings.value.filter((f) => f.id === 'no-unit' && f.step === step.key).map((f) => f.key)
    return set(words.busy.aside, () => ({ set_aside: [...(head.value?.settings.set_aside ?? []), asideOf(step), ...said] }))
  }

  const move = (to: 'undo' | 'redo') =>
    act(to === 'undo' ? words.busy.back : words.busy.forward, () =>
      want(client.POST('/api/jobs/{job}/head', { params: path(), body: { based_on: job.value!.head.id, to } })),
    )

  function rename(name: string) {
    return act(words.busy.renaming, () => want(client.PATCH('/api/jobs/{job}', { params: path(), body: { name } })))
  }

  return {
    job,
    head,
    findings,
    open,
    aside,
    busy,
    run,
    checking,
    unchecked,
    recheck,
    halt,
    settle,
    problem,
    overtaken,
    unsent,
    sendAgain,
    letGo,
    load,
    refresh,
    quiet,
    bringIn,
    addStep,
    putStep,
    changeStep,
    repairStep,
    revise,
    switchStep,
    dropStep,
    moveStep,
    copy,
    set,
    setPieces,
    setLayer,
    hiddenPieces,
    showAll,
    setAside,
    doubted,
    sizeIsRight,
    move,
    rename,
  }
})
