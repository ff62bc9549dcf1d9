import type { Layer } from '@/api/types'

/** Treatments by line pattern, never by colour alone: dashes in px of the screen. */
export const PATTERN: Record<Layer['treatment'], number[]> = {
  cut: [],
  score: [9, 5],
  draw: [8, 4, 1.5, 4],
  print: [1, 3],
  'leave-out': [2, 6],
}

export const TREATMENT: Record<Layer['treatment'], { name: string; hint: string }> = {
  cut: { name: 'Cut', hint: 'the blade goes through' },
  score: { name: 'Score', hint: 'a line to fold along' },
  draw: { name: 'Draw', hint: 'a pen follows the line' },
  print: { name: 'Print', hint: 'printed, no tool follows it' },
  'leave-out': { name: 'Leave out', hint: 'kept, but not made' },
}
