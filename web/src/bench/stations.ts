import type { Station } from '@/api/types'
import { words } from '@/words'

/** The stations in the order of work. */
export const STATIONS: { id: Station; name: string }[] = [
  { id: 'intake', name: words.stations.intake },
  { id: 'trace', name: words.stations.trace },
  { id: 'check', name: words.stations.check },
  { id: 'build', name: words.stations.build },
  { id: 'size', name: words.stations.size },
  { id: 'sheet', name: words.stations.sheet },
  { id: 'proof', name: words.stations.proof },
  { id: 'handover', name: words.stations.handover },
]
