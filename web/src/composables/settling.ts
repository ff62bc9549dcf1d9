import { watch, type Ref } from 'vue'

import type { Station } from '@/api/types'
import { useBench } from '@/stores/bench'
import { useDraft } from '@/stores/draft'
import { useJob } from '@/stores/job'
import { useRuler } from '@/stores/ruler'
import { useTrace } from '@/stores/trace'

/** What is left behind when the station, the step that is reopened, the findings or the ruler change. */
export function useSettling(station: Ref<Station>) {
  const jobs = useJob()
  const bench = useBench()
  const draft = useDraft()
  const ruler = useRuler()
  const trace = useTrace()

  watch(station, (now, before) => {
    if (before === 'handover') bench.proof = null
    if (before === 'check') {
      bench.picked = null
      bench.preview = null
    }
    if (now !== 'intake' && bench.look === 'art') bench.look = 'lines'
    bench.list = false
    bench.reopened = ''
    if (before === 'trace') trace.close()
  })
  watch(
    () => bench.ruler,
    (out) => out || ruler.clear(),
  )
  /** A step that is reopened is set up anew, with its own values. */
  watch(
    () => bench.reopened,
    (key) => {
      const step = jobs.head?.steps.find((one) => one.key === key)
      if (step) draft.reopen(step)
      else draft.clear()
    },
  )
  watch(
    () => jobs.findings,
    (findings) => {
      if (!findings.some((f) => f.key === bench.picked && !f.set_aside)) bench.picked = null
    },
  )
}
