import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'

import type { MendPreview, Proof } from '@/api/types'

export type Look = 'art' | 'lines'

/** What the bench shows of the work: the look, the finding that is picked with its mend, the proof in hand. */
export const useBench = defineStore('bench', () => {
  const look = ref<Look>('art')
  const picked = ref<string | null>(null)
  const preview = shallowRef<MendPreview | null>(null)
  const proof = shallowRef<Proof | null>(null)

  /** Counts up when the whole of the work is to be shown. */
  const wantsAll = ref(0)

  function clear() {
    picked.value = null
    preview.value = null
    proof.value = null
  }
  return { look, picked, preview, proof, wantsAll, clear }
})
