import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'

import { client, formOf, Refused, want } from '@/api/client'
import type { Archive } from '@/api/types'

import { useJob } from './job'

/** A file on its way in: sent, or one out of an archive that lies ready. */
export interface Coming {
  name: string
  file?: File
  staged?: string
}

export interface Refusal {
  name: string
  sentence: string
}

export const sentenceOf = (error: unknown) => (error instanceof Refused ? error.sentence : String(error))

/** ZIP files begin with these bytes, whatever they are called. */
async function isArchive(file: File): Promise<boolean> {
  const head = new Uint8Array(await file.slice(0, 4).arrayBuffer())
  return head[0] === 0x50 && head[1] === 0x4b && (head[2] === 3 || head[2] === 5)
}

/** Files that come in, several at once, and what is wanted of the archives among them. */
export const useIntake = defineStore('intake', () => {
  /** The archive that somebody is choosing from. */
  const archive = shallowRef<Archive | null>(null)
  /** Several files for a new job: all in one, or a job each? */
  const many = shallowRef<Coming[] | null>(null)
  const unpacking = ref('')
  /** How far the files are that come in now. */
  const going = shallowRef<{ done: number; all: number } | null>(null)
  /** Those that could not be brought in. */
  const refused = shallowRef<Refusal[]>([])
  /** What is still to come when the bench has opened. */
  const rest = shallowRef<Coming[]>([])
  let answer: ((chosen: never) => void) | null = null

  /** Puts a question on the screen and waits for what is chosen. */
  const asked = <T>(show: () => void) =>
    new Promise<T>((done) => {
      answer = done
      show()
    })
  function choose(chosen: unknown) {
    archive.value = many.value = null
    answer?.(chosen as never)
    answer = null
  }
  const refuse = (name: string, sentence: string) => (refused.value = [...refused.value, { name, sentence }])

  /** The files that are meant: archives are opened, and their files chosen from. */
  async function gather(files: File[]): Promise<Coming[]> {
    refused.value = []
    const coming: Coming[] = []
    for (const file of files) {
      if (await isArchive(file)) coming.push(...(await open(file)))
      else coming.push({ name: file.name, file })
    }
    return coming
  }

  async function open(file: File): Promise<Coming[]> {
    unpacking.value = file.name
    try {
      const found = await want(
        client.POST('/api/archives', { body: { file: file as never }, bodySerializer: (b) => formOf({ file: b.file as never }) }),
      )
      unpacking.value = ''
      for (const note of found.notes) refuse(found.name, note)
      if (found.files.every((f) => !f.format)) {
        refuse(found.name, `${found.name} holds nothing that can be read here.`)
        return []
      }
      return await asked<Coming[]>(() => (archive.value = found))
    } catch (error) {
      refuse(file.name, sentenceOf(error))
      return []
    } finally {
      unpacking.value = ''
    }
  }

  const oneOrEach = (coming: Coming[]) => asked<'one' | 'each' | null>(() => (many.value = coming))

  /** Brings files into the job on the bench, one after the other; what cannot be read does not stop the others. */
  async function bring(coming: Coming[]) {
    const jobs = useJob()
    const job = jobs.job?.id
    for (const [done, each] of coming.entries()) {
      going.value = coming.length > 1 ? { done, all: coming.length } : null
      const brought = await jobs.bringIn(each)
      if (brought) continue
      if (jobs.overtaken || jobs.job?.id !== job) break
      // Stopped by hand: the others are not wanted either.
      if (!jobs.problem) break
      if (coming.length > 1) {
        refuse(each.name, jobs.problem)
        jobs.problem = ''
      }
    }
    going.value = null
  }

  async function take(files: File[]) {
    await bring(await gather(files))
  }

  /** Goes on with what was left for the bench. */
  async function goOn() {
    const coming = rest.value
    rest.value = []
    if (coming.length) await bring(coming)
  }

  return { archive, many, unpacking, going, refused, rest, choose, gather, oneOrEach, bring, take, goOn, refuse }
})
