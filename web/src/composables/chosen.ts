import { computed } from 'vue'

import { useJob } from '@/stores/job'
import { useLibrary } from '@/stores/library'
import { words } from '@/words'

interface Choice {
  id: string
  name: string
}

/** What can be chosen of a list, and what was chosen of an older one. */
export const withCurrent = <T extends Choice>(rows: T[], id: string | null | undefined, name?: string | null): (T | Choice)[] =>
  !id || rows.some((row) => row.id === id) ? rows : [...rows, { id, name: words.lists.offList(name ?? id) }]

/** What can be chosen for the job: the lists as they are now, and what it has of older ones. */
export function useChosen() {
  const jobs = useJob()
  const library = useLibrary()
  const settings = computed(() => jobs.head!.settings)
  const held = computed(() => jobs.head!.held)
  return {
    settings,
    held,
    materials: computed(() => withCurrent(library.library.materials, settings.value.material, held.value.material)),
    machines: computed(() => withCurrent(library.library.machines, settings.value.machine, held.value.machine)),
    targets: computed(() => withCurrent(library.library.targets, settings.value.target, held.value.target)),
    purposes: computed(() => withCurrent(library.library.purposes, settings.value.purpose, held.value.purpose)),
  }
}
