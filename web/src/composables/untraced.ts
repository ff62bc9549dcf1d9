import { computed } from 'vue'

import type { StepDone } from '@/api/types'
import { useJob } from '@/stores/job'

/** Pictures of the job that have not become lines yet, and which picture a trace is about: without a name the first. */
export function useUntraced() {
  const jobs = useJob()
  const pictures = computed(() => jobs.head?.pictures ?? [])
  const pictureOf = (step: StepDone) => (step.parameters as { picture?: string }).picture || pictures.value[0]?.id
  const untraced = computed(() => {
    const traced = (jobs.head?.steps ?? []).filter((s) => s.operation === 'trace' && s.enabled).map(pictureOf)
    return pictures.value.filter((p) => !traced.includes(p.id))
  })
  return { untraced, pictureOf }
}
