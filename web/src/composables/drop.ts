import { ref } from 'vue'

/** A place that files can be dropped on. over: whether some hang above it now. */
export function useDrop(take: (files: File[]) => void) {
  const over = ref(false)
  let depth = 0
  const has = (event: DragEvent) => event.dataTransfer?.types.includes('Files') ?? false
  const handlers = {
    onDragenter(event: DragEvent) {
      if (!has(event)) return
      depth++
      over.value = true
    },
    onDragleave() {
      depth = Math.max(depth - 1, 0)
      over.value = depth > 0
    },
    onDragover(event: DragEvent) {
      if (has(event)) event.preventDefault()
    },
    onDrop(event: DragEvent) {
      event.preventDefault()
      depth = 0
      over.value = false
      const files = [...(event.dataTransfer?.files ?? [])]
      if (files.length) take(files)
    },
  }
  return { over, handlers }
}
