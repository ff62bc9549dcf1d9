import { defineStore } from 'pinia'
import { ref } from 'vue'

import { client, want } from '@/api/client'
import type { Library } from '@/api/types'

/** What can be chosen from: materials, machines, formats. */
export const useLibrary = defineStore('library', () => {
  const library = ref<Library>({ materials: [], machines: [], formats: [], operations: [] })
  let asked: Promise<void> | null = null

  function load(): Promise<void> {
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
  return { library, load }
})
