import { onMounted, onUnmounted } from 'vue'

/** Files that are pasted anywhere but into a field: a picture, files, or the text of an SVG drawing. */
export function usePaste(take: (files: File[]) => void) {
  function pasted(event: ClipboardEvent) {
    const target = event.target as HTMLElement
    if (target.closest('input, textarea, [contenteditable], .v-overlay--active[role=dialog]')) return
    const files = filesOf(event.clipboardData)
    if (!files.length) return
    event.preventDefault()
    take(files)
  }
  onMounted(() => window.addEventListener('paste', pasted))
  onUnmounted(() => window.removeEventListener('paste', pasted))
}

export function filesOf(data: DataTransfer | null): File[] {
  const files = [...(data?.files ?? [])].map(named)
  if (files.length) return files
  const text = data?.getData('text/plain') ?? ''
  return /<svg[\s>]/.test(text) ? [new File([text], 'Pasted drawing.svg', { type: 'image/svg+xml' })] : []
}

/** What browsers call a pasted picture says nothing. */
function named(file: File): File {
  const match = /^image\.(\w+)$/.exec(file.name)
  return match ? new File([file], `Pasted picture.${match[1]}`, { type: file.type }) : file
}
