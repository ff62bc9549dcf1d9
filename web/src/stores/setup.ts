import { defineStore } from 'pinia'
import { computed, ref } from 'vue'

import { client, want } from '@/api/client'

/** Poll interval, in ms. */
const EVERY_MS = 2000

/** Whether what computes is compiled yet; after the first start that takes minutes. */
export const useSetup = defineStore('setup', () => {
  const state = ref({ ready: true, done: 0, of: 0 })
  const share = computed(() => (state.value.of ? (100 * state.value.done) / state.value.of : 0))
  /** Counts up when everything is ready: what could not be answered before is asked again. */
  const turn = ref(0)

  async function follow(): Promise<void> {
    // Where nobody answers, the screens say so themselves.
    const next = await want(client.GET('/api/setup')).catch(() => state.value)
    if (next.ready && !state.value.ready) turn.value++
    state.value = next
    if (!next.ready) setTimeout(() => void follow(), EVERY_MS)
  }
  return { state, share, turn, follow }
})
