import { defineStore } from 'pinia'
import { computed, reactive, ref, shallowRef } from 'vue'

import type { MendPreview, Proof } from '@/api/types'

export type Look = 'art' | 'lines' | 'weeded' | 'spread'

/** What is looked at: the document as it stands, where `document` is empty, or another state by its hash and name. */
export interface View {
  look: Look
  document: string
  name: string
  /** The job that the state is of, where that is another one. */
  job?: string
}

const now = (look: Look): View => ({ look, document: '', name: '', job: '' })

/** What the bench shows of the work: one view or two under a divider, the finding that is picked with its mend, the proof
 * in hand, and the instruments that are out. */
export const useBench = defineStore('bench', () => {
  const first = reactive<View>(now('art'))
  const second = ref<View | null>(null)
  const split = ref(0.5)
  const picked = ref<string | null>(null)
  const preview = shallowRef<MendPreview | null>(null)
  const proof = shallowRef<Proof | null>(null)
  const loupe = ref(false)
  const ruler = ref(false)
  /** Whether the list of layers and pieces is out, in the place of the station's panel. */
  const list = ref(false)
  /** The step whose values are open in a form. */
  const reopened = ref('')
  /** Counts up when the whole of the work is to be shown. */
  const wantsAll = ref(0)
  /** Counts up when the work is to be shown as large as it is. */
  const wantsTrueSize = ref(0)
  /** A place that the view flies to: left, top, right and bottom in mm. */
  const flyTo = shallowRef<[number, number, number, number] | null>(null)

  const look = computed({ get: () => first.look, set: (to) => (first.look = to) })
  const views = computed(() => (second.value ? [first, second.value] : [first]))

  /** Puts another view beside the first, or takes it away. */
  function compare(view: Partial<View> | null) {
    second.value = view ? { ...now(first.look === 'lines' ? 'art' : 'lines'), ...view } : null
    if (!view) Object.assign(first, { document: '', name: '' })
  }
  const toggleCompare = () => compare(second.value ? null : {})

  /** Before and after of a step, on both sides of the divider. */
  function beforeAndAfter(before: { document: string; name: string }, after: { document: string; name: string }) {
    Object.assign(first, before)
    second.value = { look: first.look, ...after }
  }

  function clear() {
    picked.value = null
    preview.value = null
    proof.value = null
    compare(null)
    loupe.value = ruler.value = list.value = false
    reopened.value = ''
  }
  return {
    first,
    second,
    views,
    split,
    look,
    picked,
    preview,
    proof,
    loupe,
    ruler,
    list,
    reopened,
    wantsAll,
    wantsTrueSize,
    flyTo,
    compare,
    toggleCompare,
    beforeAndAfter,
    clear,
  }
})
