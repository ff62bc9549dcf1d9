import { onMounted, onUnmounted, ref } from 'vue'

/** An element that does something once it comes into view. */
export function useSeen(then: () => void) {
  const element = ref<HTMLElement | null>(null)
  let seen: IntersectionObserver | undefined
  onMounted(() => {
    seen = new IntersectionObserver(([entry]) => {
      if (!entry.isIntersecting) return
      seen?.disconnect()
      then()
    })
    seen.observe(element.value!)
  })
  onUnmounted(() => seen?.disconnect())
  return element
}
