import { ref } from 'vue'

/** What a screen reader is told of what has just happened. */
export const announced = ref('')

let timer = 0
/** Says a sentence once; the same sentence again is said again. */
export function announce(sentence: string): void {
  window.clearTimeout(timer)
  announced.value = ''
  timer = window.setTimeout(() => (announced.value = sentence), 60)
}
