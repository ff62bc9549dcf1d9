import createClient from 'openapi-fetch'

import type { paths } from './schema'

import { words } from '@/words'

/** A request that failed: its sentence is for people, its code for the program. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    readonly sentence: string,
  ) {
    super(sentence)
  }
}

export const NO_ANSWER = words.offline.noAnswer

export function token(): string {
  return document.cookie.match(/csrftoken=([^;]+)/)?.[1] ?? ''
}

export const client = createClient<paths>({ baseUrl: '/', fetch: (request) => globalThis.fetch(request) })
client.use({
  onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('X-CSRFToken', token())
    return request
  },
  onError() {
    return new Refused(0, 'no-answer', NO_ANSWER)
  },
})

interface Answer<T> {
  data?: T
  error?: unknown
  response: Response
}

/** The data of an answer, or its error thrown as a sentence. */
export async function want<T>(asked: Promise<Answer<T>>): Promise<T> {
  const { data, error, response } = await asked
  if (response.ok && data !== undefined) return data
  const said = error as { code?: string; sentence?: string } | undefined
  throw new Refused(response.status, said?.code ?? 'failed', said?.sentence ?? NO_ANSWER)
}

/** A form with a file in it, as the API's upload bodies want it. */
export function formOf(values: Record<string, string | number | File | undefined>): FormData {
  const form = new FormData()
  for (const [name, value] of Object.entries(values)) {
    if (value !== undefined) form.append(name, value instanceof File ? value : String(value))
  }
  return form
}

/** Bytes of an answer, or its error thrown as a sentence. */
export async function fetchBytes(address: string): Promise<ArrayBuffer> {
  const response = await globalThis.fetch(address).catch(() => null)
  if (!response) throw new Refused(0, 'no-answer', NO_ANSWER)
  if (response.ok) return response.arrayBuffer()
  const said = await response.json().catch(() => ({}))
  throw new Refused(response.status, said.code ?? 'failed', said.sentence ?? NO_ANSWER)
}
