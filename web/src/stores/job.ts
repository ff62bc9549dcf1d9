import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

import { client, formOf, Refused, want } from '@/api/client'
import type { Finding, Job, Settings } from '@/api/types'

type StepItem = { key?: string; operation?: string; parameters?: Record<string, unknown>; enabled?: boolean }

/** The job on the bench: its head, its findings, and every way to change it. Each change is kept as it is made. */
export const useJob = defineStore('job', () => {
  const job = shallowRef<Job | null>(null)
  const findings = shallowRef<Finding[]>([])
  const busy = ref('')
  const problem = ref('')
  /** What was being done when another window had been quicker; doing it again is on top of what is there now. */
  const overtaken = shallowRef<(() => Promise<void>) | null>(null)

  const head = computed(() => job.value?.head)
  const open = computed(() => findings.value.filter((f) => !f.set_aside))
  const aside = computed(() => findings.value.filter((f) => f.set_aside))

  async function show(next: Job) {
    const same = job.value?.id === next.id && job.value.head.id === next.head.id
    const found = same
      ? findings.value
      : await want(client.GET('/api/revisions/{revision}/findings', { params: { path: { revision: next.head.id } } }))
    job.value = next
    findings.value = found
  }

  /** Runs one piece of work: says what is going on, and turns what goes wrong into a sentence. */
  async function act(what: string, work: () => Promise<Job>): Promise<boolean> {
    if (busy.value) return false
    busy.value = what
    problem.value = ''
    try {
      await show(await work())
      return true
    } catch (error) {
      if (error instanceof Refused && error.code === 'changed-meanwhile') {
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
      busy.value = ''
    }
  }

  const path = () => ({ path: { job: job.value!.id } })

  function load(id: string) {
    if (job.value?.id !== id) {
      job.value = null
      findings.value = []
    }
    overtaken.value = null
    return act('Opening the job', () => want(client.GET('/api/jobs/{job}', { params: { path: { job: id } } })))
  }

  function refresh() {
    const id = job.value?.id
    return id ? load(id) : Promise.resolve(false)
  }

  function bringIn(file: File) {
    return act(`Reading ${file.name}`, () =>
      want(
        client.POST('/api/jobs/{job}/sources', {
          params: path(),
          body: { file: file as never, based_on: job.value!.head.id },
          bodySerializer: (body) => formOf({ file: body.file as never, based_on: body.based_on }),
        }),
      ),
    )
  }

  function revise(what: string, steps: (kept: StepItem[]) => StepItem[], settings?: () => Settings) {
    return act(what, () => {
      const kept = job.value!.head.steps.map((step) => ({ key: step.key }))
      return want(
        client.POST('/api/jobs/{job}/revisions', {
          params: path(),
          body: { based_on: job.value!.head.id, steps: steps(kept), settings: settings?.() },
        }),
      )
    })
  }

  const addStep = (what: string, operation: string, parameters: Record<string, unknown>) =>
    revise(what, (kept) => [...kept, { operation, parameters }])

  const switchStep = (key: string, enabled: boolean) =>
    revise('Going through the steps', (kept) => kept.map((s) => (s.key === key ? { ...s, enabled } : s)))

  const dropStep = (key: string) => revise('Going through the steps', (kept) => kept.filter((s) => s.key !== key))

  const set = (what: string, settings: () => Settings) => revise(what, (kept) => kept, settings)

  function setAside(key: string, away: boolean) {
    return set('Setting aside', () => {
      const before = head.value?.settings.set_aside ?? []
      return { set_aside: away ? [...before, key] : before.filter((k) => k !== key) }
    })
  }

  const move = (to: 'undo' | 'redo') =>
    act(to === 'undo' ? 'Going back' : 'Coming forward', () =>
      want(client.POST('/api/jobs/{job}/head', { params: path(), body: { based_on: job.value!.head.id, to } })),
    )

  function rename(name: string) {
    return act('Renaming', () => want(client.PATCH('/api/jobs/{job}', { params: path(), body: { name } })))
  }

  return {
    job,
    head,
    findings,
    open,
    aside,
    busy,
    problem,
    overtaken,
    load,
    refresh,
    bringIn,
    addStep,
    switchStep,
    dropStep,
    set,
    setAside,
    move,
    rename,
  }
})
