import { computed, watch, type Ref } from 'vue'
import { useRoute } from 'vue-router'

import type { Station, StepDone } from '@/api/types'
import { useDrawing } from '@/stores/drawing'
import { useJob } from '@/stores/job'
import { useTrace } from '@/stores/trace'

import { useUntraced } from './untraced'

const sameStep = (a: StepDone | null, b: StepDone | null) =>
  a?.key === b?.key && JSON.stringify(a?.parameters) === JSON.stringify(b?.parameters)

/** The trace that its station is about, opened and closed as one comes and goes. documentShown: while a trace is changed,
 * the bench shows what it begins from; tracing: whether one is set up. */
export function useTraced(job: () => string, station: Ref<Station>) {
  const jobs = useJob()
  const drawing = useDrawing()
  const trace = useTrace()
  const route = useRoute()

  const { untraced, pictureOf } = useUntraced()
  /** The named step or picture; else a picture that is not traced yet, or the last trace that was kept. */
  const traced = computed(() => {
    if (station.value !== 'trace' || !jobs.head) return null
    const { steps, pictures, document } = jobs.head
    const kept = steps.filter((s) => s.operation === 'trace' && s.enabled)
    const named = kept.find((s) => s.key === route.query.step)
    const picture = named ? pictureOf(named) : (pictures.find((p) => p.id === route.query.picture) ?? untraced.value[0])?.id
    const step = named ?? kept.findLast((s) => !picture || pictureOf(s) === picture)
    const before = step && steps.slice(0, steps.indexOf(step)).findLast((s) => s.document)?.document
    return { step: step ?? null, before: step ? (before ?? '') : document, picture: picture ?? (step && pictureOf(step)) }
  })
  watch(
    () => [traced.value?.before, traced.value?.step, traced.value?.picture, drawing.shown] as const,
    () => {
      const now = traced.value
      if (!now) return trace.close()
      const pictures = drawing.drawing?.pictures ?? []
      if (drawing.shown !== now.before || !pictures.length) return
      const picture = pictures.find((p) => p.id === now.picture) ?? pictures[0]
      // What is set but not kept stays, unless the step itself is another: going back may have changed it.
      if (trace.before === now.before && trace.picture === picture.id && sameStep(trace.step, now.step)) return
      void trace.open({
        job: job(),
        before: now.before,
        picture: picture.id,
        step: now.step,
        bears: jobs.head!.held.bears,
        // What has a material is cut from it.
        lines: jobs.head!.settings.material ? 'cut' : 'draw',
      })
    },
  )

  const documentShown = computed(() => traced.value?.before || jobs.head?.document)
  const tracing = computed(() => station.value === 'trace' && !!drawing.drawing?.pictures.length)
  return { documentShown, tracing }
}
