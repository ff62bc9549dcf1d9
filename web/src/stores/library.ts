import { defineStore } from 'pinia'
import { ref } from 'vue'

import { client, want } from '@/api/client'
import type { Library } from '@/api/types'

const NOTHING = { materials: [], machines: [], purposes: [], targets: [], stock: [], settings: [] }

/** What can be chosen from: materials, machines, purposes, formats. */
export const useLibrary = defineStore('library', () => {
  const library = ref<Library>({
    ...NOTHING,
    lists: 0,
    shipped: NOTHING,
    ranges: [],
    forms: {},
    tools: [],
    limits_of_any: { least_strip_mm: 0.3, least_gap_mm: 0.1, least_piece_mm2: 0.25 },
    formats: [],
    operations: [],
  })
  let asked: Promise<void> | null = null

  function load(again = false): Promise<void> {
    if (again) asked = null
    asked ??= want(client.GET('/api/library'))
      .then((found) => {
        library.value = found
      })
      .catch((error) => {
        asked = null
        throw error
      })
    return asked
  }
  const operation = (id: string) => library.value.operations.find((one) => one.id === id)
  return { library, load, operation }
})
