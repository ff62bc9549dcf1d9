import { computed, watch, type Ref } from 'vue'
import { useRoute } from 'vue-router'

import type { Station, StepDone } from '@/api/types'
import { useDrawing } from '@/stores/drawing'
import { useJob } from '@/stores/job'
import { useLibrary } from '@/stores/library'
import { useTrace } from '@/stores/trace'

const sameStep = (a: StepDone | null, b: StepDone | null) =>
  a?.key === b?.key && JSON.stringify(a?.parameters) === JSON.stringify(b?.parameters)

/** The trace that its station is about, opened and closed as one comes and goes. documentShown: while a trace is changed,
 * the bench shows what it begins from; tracing: whether one is set up. */
export function useTraced(job: () => string, station: Ref<Station>) {
  const jobs = useJob()
  const drawing = useDrawing()
  const trace = useTrace()
  const library = useLibrary()
  const route = useRoute()

  /** The named step, else the last one that was kept, else the first to be made. */
  const traced = computed(() => {
    if (station.value !== 'trace' || !jobs.head) return null
    const kept = jobs.head.steps.filter((s) => s.operation === 'trace' && s.enabled)
    const step = kept.find((s) => s.key === route.query.step) ?? kept.at(-1)
    const at = step ? jobs.head.steps.indexOf(step) : jobs.head.steps.length
    const before = jobs.head.steps.slice(0, at).findLast((s) => s.document)?.document ?? ''
    return { step: step ?? null, before: step ? before : jobs.head.document }
  })
  watch(
    () => [traced.value?.before, traced.value?.step, drawing.shown] as const,
    () => {
      const now = traced.value
      if (!now) return trace.close()
      const pictures = drawing.drawing?.pictures ?? []
      if (drawing.shown !== now.before || !pictures.length) return
      const named = (now.step?.parameters as { picture?: string } | undefined)?.picture
      const picture = pictures.find((p) => p.id === named) ?? pictures[0]
      // What is set but not kept stays, unless the step itself is another: going back may have changed it.
      if (trace.before === now.before && sameStep(trace.step, now.step)) return
      const material = library.library.materials.find((m) => m.id === jobs.head?.settings.material)
      void trace.open({
        job: job(),
        before: now.before,
        picture: picture.id,
        step: now.step,
        leastMm: material?.least_strip_mm,
      })
    },
  )

  const documentShown = computed(() => traced.value?.before || jobs.head?.document)
  const tracing = computed(() => station.value === 'trace' && !!drawing.drawing?.pictures.length)
  return { documentShown, tracing }
}
