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
  /** Those that are in sight: only they are looked at. */
  const inSight = new Set<string>()
  let wanted = ''
  let looking = ''
  let timer = 0

  /** How many pieces an offer would be for. */
  const pieces = computed(() => (picks.pieces.length ? picks.pieces : drawing.inUse.map(({ piece }) => piece.id)))
  const fits = (offer: Offer) => pieces.value.length >= offer.least
  const nodes = computed(() => {
    const own = new Set(pieces.value)
    return drawing.inUse.reduce((sum, one) => sum + (own.has(one.piece.id) ? one.shape.nodes.length / 2 : 0), 0)
  })

  /** Looks at those in sight, one after the other, as long as nothing else is picked meanwhile. */
  async function look(key: string) {
    const [of, based_on] = [job.job?.id, job.head?.id]
    if (!of || !based_on || nodes.value > MOST_NODES || looking === key) return
    looking = key
    const selection: Selection = picks.pieces.length ? { [ON]: { ids: picks.pieces } } : {}
    try {
      for (let offer = next(); offer; offer = next()) {
        const step = { operation: offer.operation, parameters: offer.values, selection }
        let found: Seen
        try {
          found = {
            draft: await fetchDraft(of, { based_on, step, checked: false, tab: `${TAB}-${offer.id}`, number: nextNumber() }),
            why: '',
          }
        } catch (error) {
          found = { draft: null, why: error instanceof Refused ? error.sentence : String(error) }
        }
        if (key !== wanted) return
        seen.set(offer.id, found)
      }
    } finally {
      if (looking === key) looking = ''
    }
  }
  const next = () => OFFERS.find((offer) => offer.drawn && inSight.has(offer.id) && !seen.has(offer.id) && fits(offer))
  /** An offer comes into sight, or goes out of it. */
  function sight(id: string, here: boolean) {
    if (!here) return void inSight.delete(id)
    inSight.add(id)
    if (wanted && !timer) void look(wanted)
  }

  /** Looks again whenever something else is picked, until it is told to stop. */
  function follow(): () => void {
    const stop = watch(
      () => `${drawing.shown} ${picks.pieces.join()}`,
      (key) => {
        wanted = key
        seen.clear()
        window.clearTimeout(timer)
        timer = window.setTimeout(() => {
          timer = 0
          void look(key)
        }, RESTED_MS)
      },
      { immediate: true },
    )
    return () => {
      stop()
      window.clearTimeout(timer)
      timer = 0
      wanted = ''
    }
  }
  return { seen, pieces, fits, follow, sight }
})
