import { computed, watch, type ComputedRef } from 'vue'

import { artScene, linesScene, NOTHING, proofScene, underDraft, weededScene, type Side } from '@/canvas/looks'
import type { Target } from '@/canvas/picker'
import { spreadOf, type Spread } from '@/canvas/spread'
import { useAsides } from '@/stores/asides'
import { useBench, type View } from '@/stores/bench'
import { useDraft } from '@/stores/draft'
import { useDrawing, type Drawn, type Plan } from '@/stores/drawing'
import { useJob } from '@/stores/job'
import type { Picture } from '@/api/types'
import { words } from '@/words'

/** A side with what can be picked on it. */
export interface Seen extends Side {
  drawn: Drawn[]
  targets: Target[]
  box: [number, number, number, number] | null
}

/** The views of the bench as what is to be painted, each with what can be picked on it. */
export function useSides(pictures: ComputedRef<Picture[]>, pale: ComputedRef<string[]>, proving: ComputedRef<boolean>) {
  const bench = useBench()
  const drawing = useDrawing()
  const asides = useAsides()
  const job = useJob()
  const draft = useDraft()
  const by = computed(() => job.head?.settings)
  const marks = computed(() => job.head?.settings.pieces ?? {})
  const documentOf = (view: View) => view.document || drawing.shown

  watch(
    () => [bench.views.map(({ look, document }) => `${look} ${document}`).join(), drawing.shown, by.value?.machine, by.value?.lists],
    () => {
      const others = bench.views.filter((view) => view.document)
      drawing.keep(...others.map((view) => view.document))
      for (const { document, job: of } of others)
        void drawing.beside(document, of).catch((error) => (job.problem = String(error.sentence ?? error)))
      for (const view of bench.views) {
        if (!documentOf(view)) continue
        if (view.look === 'weeded') void asides.wantWeeded(documentOf(view), by.value)
        if (view.look === 'spread') void asides.wantApart(documentOf(view))
      }
    },
    { immediate: true },
  )

  function sceneOf(view: View, plan: Plan, spread: Spread | null) {
    const drawn = drawing.seenOf(plan.document)
    if (view.look === 'art') return artScene(drawn, marks.value)
    if (view.look === 'spread') return spread?.scene ?? NOTHING
    if (view.look === 'lines') return linesScene(drawn, marks.value)
    const key = asides.keyOf(plan.document, by.value)
    const weeded = asides.weeded.get(key)
    const [width, height] = plan.drawing.frame
    return weeded ? weededScene(weeded, `weeded/${key}`, Math.max(width, height)) : NOTHING
  }

  function sideOf(view: View): Seen {
    // A proof is of the document as it stands, whatever was compared before.
    const plan = drawing.plans.get(proving.value ? drawing.shown : documentOf(view))
    const name = view.name || (bench.second ? words.looks[view.look].name : '')
    const none: Seen = { name, scene: NOTHING, pictures: [], pale: [], lines: false, labels: [], drawn: [], targets: [], box: null }
    if (!plan) return none
    const drawn = drawing.seenOf(plan.document)
    none.drawn = view.look === 'weeded' || view.look === 'spread' ? [] : drawn
    if (proving.value && bench.proof) return { ...none, name: '', scene: proofScene(drawn, bench.proof) }
    const apart = asides.apart.get(plan.document)
    const spread = view.look === 'spread' && apart ? spreadOf(drawn, apart) : null
    const targets = spread?.targets ?? drawn.map((one) => ({ drawn: one, key: one.piece.path, shape: one.shape, dx: 0, dy: 0 }))
    const scene = sceneOf(view, plan, spread)
    const under = draft.shown && plan.document === drawing.shown && (view.look === 'art' || view.look === 'lines')
    return {
      ...none,
      scene: under ? underDraft(scene, drawn, draft.shown!) : scene,
      pictures: view.look === 'art' || !plan.drawn.length ? pictures.value : [],
      pale: pale.value,
      // Nodes would stand over what is being set up.
      lines: view.look === 'lines' && !under,
      labels: spread?.labels ?? [],
      // Only what is on the bench now is picked, not what it is compared with.
      targets: plan.document === drawing.shown && view.look !== 'weeded' ? targets : [],
      box: spread?.box ?? null,
    }
  }
  return computed<Seen[]>(() => bench.views.map(sideOf))
}
