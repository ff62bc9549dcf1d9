import { computed } from 'vue'

import { useDrawing } from '@/stores/drawing'
import { useJob } from '@/stores/job'

/** Pictures that have not become lines yet; without a name a trace is about the first. */
export function useUntraced() {
  const jobs = useJob()
  const drawing = useDrawing()
  return computed(() => {
    const pictures = drawing.drawing?.pictures ?? []
    const traces = jobs.head?.steps.filter((s) => s.operation === 'trace' && s.enabled) ?? []
    const named = traces.map((s) => (s.parameters as { picture?: string }).picture || pictures[0]?.id)
    return pictures.filter((p) => !named.includes(p.id))
  })
}
