import type { Finding } from '@/api/types'

/** How many findings there are, those too that are only counted. */
export const numberOf = (findings: Finding[]) => findings.reduce((sum, finding) => sum + finding.count, 0)
