import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

import { client, formOf, Refused, want } from '@/api/client'
import type { FacesShown } from '@/api/types'

import { useJob } from './job'

const said = (error: unknown) => (error instanceof Refused ? error.sentence : String(error))

/** The faces of a job, each shown by a person's own words; those that were brought first. */
export const useFaces = defineStore('faces', () => {
  const job = useJob()
  const shown = shallowRef<FacesShown | null>(null)
  /** Why faces cannot be shown, and why one could not be brought in: what comes in between takes neither away. */
  const notShown = ref('')
  const notBrought = ref('')
  const problem = computed(() => notBrought.value || notShown.value)
  const bringing = ref(false)
  let asked = ''

  const byId = (id: string) => shown.value?.faces.find((face) => face.id === id) ?? null

  /** Looks at all faces with words in them: how they look at once, then what they mean for the cut. */
  async function look(text: string, capitals_mm: number) {
    const question = JSON.stringify([job.job?.id, text, capitals_mm, bringing.value])
    if (question === asked || !job.job) return
    asked = question
    try {
      const first = await ask(text, capitals_mm, [])
      if (question !== asked) return
      // What was judged of the same face before stays until it is judged anew.
      shown.value = { ...first, faces: first.faces.map((face) => ({ ...face, judged: byId(face.id)?.judged ?? null })) }
      const judged = await ask(
        text,
        capitals_mm,
        first.faces.map((face) => face.id),
      )
      if (question === asked) shown.value = judged
      notShown.value = ''
    } catch (error) {
      if (question === asked) notShown.value = said(error)
    }
  }
  const ask = (text: string, capitals_mm: number, judged: string[]) =>
    want(client.POST('/api/jobs/{job}/faces/shown', { params: { path: { job: job.job!.id } }, body: { text, capitals_mm, judged } }))

  /** Brings a font file in; gives the id of its face, or nothing where it cannot be read. */
  async function bring(file: File): Promise<string> {
    bringing.value = true
    notBrought.value = ''
    try {
      const face = await want(
        client.POST('/api/jobs/{job}/faces', {
          params: { path: { job: job.job!.id } },
          body: { file: file as never },
          bodySerializer: () => formOf({ file }),
        }),
      )
      asked = ''
      return face.id
    } catch (error) {
      notBrought.value = said(error)
      return ''
    } finally {
      bringing.value = false
    }
  }
  return { shown, problem, bringing, byId, look, bring }
})
