import { client, Refused, want } from './client'
import type { Job, Run } from './types'

const EVERY_MS = 200
/** So long an application that does not answer is waited for: it may be starting again. */
const PATIENCE_MS = 30_000

/** Somebody stopped the work: nothing went wrong, and nothing was changed. */
export class Stopped extends Error {}

/** What to tell those who follow a piece of work before they ask again. */
const told = new Map<string, (now: Run) => void>()

/** The next state that is told, or nothing after a while. */
function news(id: string): Promise<Run | null> {
  return new Promise((done) => {
    const timer = setTimeout(() => done(null), EVERY_MS)
    told.set(id, (now) => {
      clearTimeout(timer)
      done(now)
    })
  }).then((now) => {
    told.delete(id)
    return now as Run | null
  })
}

export const isRun = (answer: Job | Run): answer is Run => 'state' in answer

/** Follows a piece of work to its end. Throws Refused where it failed, Stopped where it was stopped. */
export async function follow(first: Run, each: (now: Run) => void): Promise<Run> {
  let now = first
  const job = first.job!
  let silent = 0
  while (now.state === 'waiting' || now.state === 'running') {
    each(now)
    const heard = await news(now.id)
    if (heard) {
      now = heard
      continue
    }
    try {
      now = await want(client.GET('/api/jobs/{job}/runs/{run}', { params: { path: { job, run: now.id } } }))
      silent = 0
    } catch (error) {
      silent += EVERY_MS
      if (!(error instanceof Refused) || error.status !== 0 || silent > PATIENCE_MS) throw error
    }
  }
  if (now.state === 'failed') throw new Refused(422, now.error?.code ?? 'failed', now.error?.sentence ?? '')
  if (now.state === 'cancelled') throw new Stopped()
  return now
}

/** The job that an answer is about, after the work that leads to it. */
export async function jobAfter(answer: Job | Run, each: (now: Run) => void): Promise<Job> {
  if (!isRun(answer)) return answer
  const ended = await follow(answer, each)
  return want(client.GET('/api/jobs/{job}', { params: { path: { job: ended.job! } } }))
}

/** Stops a piece of work; whoever follows it hears of it at once. */
export async function stop(run: Run): Promise<void> {
  const now = await want(client.POST('/api/jobs/{job}/runs/{run}/cancel', { params: { path: { job: run.job!, run: run.id } } }))
  told.get(run.id)?.(now)
}
