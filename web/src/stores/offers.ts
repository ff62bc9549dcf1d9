import { defineStore } from 'pinia'
import { computed, shallowReactive, watch } from 'vue'

import { Refused } from '@/api/client'
import { fetchDraft, type Draft } from '@/api/drafts'
import type { Selection } from '@/api/types'
import { OFFERS, type Offer } from '@/bench/build'

import { nextNumber, ON } from './draft'
import { useDrawing } from './drawing'
import { useJob } from './job'
import { usePicks } from './picks'

/** What an offer would come to with what is picked: shown, or why it cannot be. */
export interface Seen {
  draft: Draft | null
  why: string
}

/** Small pictures are made of no more nodes than this: of more, nobody would wait for them. */
const MOST_NODES = 6000
/** They are asked for when the hand has rested so long, in ms. */
const RESTED_MS = 180
const TAB = Math.random().toString(36).slice(2)

/** What Build offers for what is picked, each seen beforehand, one after the other. */
export const useOffers = defineStore('offers', () => {
  const job = useJob()
  const drawing = useDrawing()
  const picks = usePicks()
  const seen = shallowReactive(new Map<string, Seen>())
  let wanted = ''
  let timer = 0

  /** How many pieces an offer would be for. */
  const pieces = computed(() => (picks.pieces.length ? picks.pieces : drawing.inUse.map(({ piece }) => piece.id)))
  const fits = (offer: Offer) => pieces.value.length >= offer.least
  const nodes = computed(() => {
    const own = new Set(pieces.value)
    return drawing.inUse.reduce((sum, one) => sum + (own.has(one.piece.id) ? one.shape.nodes.length / 2 : 0), 0)
  })

  /** Looks at all that are offered, as long as nothing else is picked meanwhile. */
  async function look(key: string) {
    seen.clear()
    const [of, based_on] = [job.job?.id, job.head?.id]
    if (!of || !based_on || nodes.value > MOST_NODES) return
    const selection: Selection = picks.pieces.length ? { [ON]: { ids: picks.pieces } } : {}
    for (const offer of OFFERS) {
      if (!offer.drawn || !fits(offer)) continue
      const step = { operation: offer.operation, parameters: offer.values, selection }
      try {
        const draft = await fetchDraft(of, { based_on, step, checked: false, tab: `${TAB}-${offer.id}`, number: nextNumber() })
        if (key !== wanted) return
        seen.set(offer.id, { draft, why: '' })
      } catch (error) {
        if (key !== wanted) return
        seen.set(offer.id, { draft: null, why: error instanceof Refused ? error.sentence : String(error) })
      }
    }
  }

  /** Looks again whenever something else is picked, until it is told to stop. */
  function follow(): () => void {
    const stop = watch(
      () => `${drawing.shown} ${picks.pieces.join()}`,
      (key) => {
        wanted = key
        window.clearTimeout(timer)
        timer = window.setTimeout(() => void look(key), RESTED_MS)
      },
      { immediate: true },
    )
    return () => {
      stop()
      window.clearTimeout(timer)
      wanted = ''
    }
  }
  return { seen, pieces, fits, follow }
})
