import type { Layer } from '@/api/types'
import { words } from '@/words'

/** Treatments by line pattern, never by colour alone: dashes in px of the screen. */
export const PATTERN: Record<Layer['treatment'], number[]> = {
  cut: [],
  score: [9, 5],
  draw: [8, 4, 1.5, 4],
  print: [1, 3],
  'leave-out': [2, 6],
}

export const TREATMENT: Record<Layer['treatment'], { name: string; hint: string }> = {
  cut: { ...words.treatments.cut },
  score: { ...words.treatments.score },
  draw: { ...words.treatments.draw },
  print: { ...words.treatments.print },
  'leave-out': { ...words.treatments['leave-out'] },
}
