import { onScopeDispose, ref, watch } from 'vue'

/** Waits that are shorter than this, in ms, are not told. */
const SHORT_MS = 400

/** Whether something has been waited for so long that it is told. awaited: what is waited for, null for nothing;
 *  another one begins the wait anew. */
export function useLate(awaited: () => number | null) {
  const late = ref(false)
  let timer = 0
  watch(
    awaited,
    (now) => {
      window.clearTimeout(timer)
      late.value = false
      if (now !== null) timer = window.setTimeout(() => (late.value = true), SHORT_MS)
    },
    { immediate: true },
  )
  onScopeDispose(() => window.clearTimeout(timer))
  return late
}
