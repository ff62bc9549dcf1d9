import { watch } from 'vue'

import { useBench } from '@/stores/bench'
import { useJob } from '@/stores/job'
import { usePicks } from '@/stores/picks'
import { words } from '@/words'

import { announce } from './announce'

/** What happens on the bench is said for those who do not see it. */
export function useSaid() {
  const jobs = useJob()
  const bench = useBench()
  const picks = usePicks()
  const w = words.live

  watch(
    () => jobs.head?.id,
    (_now, before) => {
      const head = jobs.head
      if (before && head) announce(w.did(head.what, head.statistics.pieces, head.statistics.nodes))
    },
  )
  watch(
    () => picks.picks,
    (some) => {
      if (!some.length) return announce(w.letGo)
      const one = some.length === 1 && (picks.byId.get(some[0].piece)?.piece.name || words.picked.unnamed)
      announce(w.picked(one || words.picked.several(some.length, picks.pieces.length)))
    },
  )
  watch(
    () => bench.look,
    (look) => announce(w.look(words.looks[look].name)),
  )
}
