<script setup lang="ts">
import { computed, ref } from 'vue'

import { useChosen } from '@/composables/chosen'
import { mm, parseLength } from '@/composables/lengths'
import { useDraft } from '@/stores/draft'
import { useDrawing } from '@/stores/drawing'
import { useJob } from '@/stores/job'
import { useLibrary } from '@/stores/library'
import { words } from '@/words'

import RowField from '../RowField.vue'

/** As large as fits: the page, a sheet of the job's material, or the target, with room all round. */
const draft = useDraft()
const drawing = useDrawing()
const jobs = useJob()
const library = useLibrary()
const { settings } = useChosen()
const w = words.size
const clear = ref(5)

interface Fit {
  name: string
  size: [number, number]
  values: Record<string, unknown>
}
const box = (name: string, [width, height]: [number, number]): Fit => ({
  name,
  size: [width, height],
  values: { width_mm: width, height_mm: height },
})
const fits = computed<Fit[]>(() => {
  const page = drawing.drawing?.page as [number, number] | null | undefined
  const material = library.library.materials.find((one) => one.id === settings.value.material)
  const target = library.library.targets.find((one) => one.id === settings.value.target)
  const found: Fit[] = []
  if (target) {
    found.push({
      name: target.name,
      size: [target.width_mm, target.height_mm],
      values: { target: { ...target, off: settings.value.target_off ?? [0, 0] } },
    })
  }
  if (page) found.push(box(w.page, page))
  if (material) found.push(box(w.sheet(material.name), [material.sheet_width_mm, material.sheet_height_mm]))
  return found
})
const begin = (fit: Fit) => draft.begin('resize', { ...fit.values, ...(clear.value ? { clear_mm: clear.value } : {}) })
const read = (text: string) => {
  const value = parseLength(text)
  return value !== null && value >= 0 ? value : undefined
}
</script>

<template>
  <div v-if="fits.length" class="part">
    <h3>{{ w.fits }}</h3>
    <RowField
      :label="w.clear"
      :value="clear"
      :show="(v: number) => `${mm(v)} mm`"
      :read="read"
      :wrong="words.slide.wrongLength"
      needed
      @take="(v: number) => (clear = v)"
    />
    <div class="chips">
      <button v-for="fit in fits" :key="fit.name" class="chip" :disabled="!!jobs.busy" @click="begin(fit)">
        {{ fit.name }} <span class="small quiet">{{ mm(fit.size[0]) }} × {{ mm(fit.size[1]) }}</span>
      </button>
    </div>
  </div>
</template>
