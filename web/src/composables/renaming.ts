import { nextTick, ref } from 'vue'

/** A name that is changed where it stands: taken with Enter or by going on, let be with Escape. */
export function useRenaming(now: () => string, take: (name: string) => void) {
  const naming = ref(false)
  const name = ref('')
  const field = ref<HTMLInputElement | null>(null)

  async function rename() {
    name.value = now()
    naming.value = true
    await nextTick()
    field.value?.select()
  }
  function named() {
    if (!naming.value) return
    naming.value = false
    const next = name.value.trim()
    if (next && next !== now()) take(next)
  }
  return { naming, name, field, rename, named }
}
