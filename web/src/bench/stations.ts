import type { Station } from '@/api/types'

/** The stations in the order of work. */
export const STATIONS: { id: Station; name: string }[] = [
  { id: 'intake', name: 'Intake' },
  { id: 'trace', name: 'Trace' },
  { id: 'check', name: 'Check and mend' },
  { id: 'handover', name: 'Handover' },
]
