import { computed } from 'vue'

import { useDraft } from '@/stores/draft'
import { useJob } from '@/stores/job'

import type { Box } from './viewport'

/** The target under the work: under what a step that is set up would make of it, or under it as it is. */
export function useTarget() {
  const draft = useDraft()
  const jobs = useJob()
  const under = computed(() => draft.shown?.target ?? jobs.head?.target ?? null)
  const box = computed<Box | null>(() => {
    const points = under.value?.lines.flat() ?? []
    const sides = (k: number) => points.filter((_, i) => i % 2 === k)
    return points.length ? [Math.min(...sides(0)), Math.min(...sides(1)), Math.max(...sides(0)), Math.max(...sides(1))] : null
  })
  return { under, box }
}
