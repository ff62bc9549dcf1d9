<script setup lang="ts">
import { computed, ref } from 'vue'

import { mm } from '@/composables/lengths'
import { useBench } from '@/stores/bench'
import { useDrawing } from '@/stores/drawing'
import { useJob } from '@/stores/job'
import { useLibrary } from '@/stores/library'
import { words } from '@/words'

import LengthField from '../LengthField.vue'

const w = words.page
/** The page that the design lies on: the file's own, a sheet of the material, close round the design, or typed. */
const jobs = useJob()
const bench = useBench()
const drawing = useDrawing()
const library = useLibrary()
const typing = ref(false)
const MARGIN_MM = 5

const frame = computed(() => drawing.drawing?.page ?? drawing.drawing?.frame ?? [0, 0])
const step = computed(() => jobs.head!.steps.findLast((s) => s.operation === 'page'))
const material = computed(() => library.library.materials.find((m) => m.id === jobs.head!.settings.material))
const from = computed(() => {
  if (step.value?.enabled) return step.value.title.replace('Page set to ', '')
  if (jobs.head!.steps.filter((s) => s.operation === 'bring-in').length > 1) return w.asFiles
  return drawing.drawing?.page ? w.asInFile : w.none
})

/** One step says what the page is: choosing anew changes it, after all that came meanwhile. */
function set(parameters: Record<string, unknown>) {
  typing.value = false
  void jobs.revise(words.busy.page, (kept) => [...kept.filter((s) => s.key !== step.value?.key), { operation: 'page', parameters }])
}
/** As wide as many rolls are (common practice). */
const ROLL_MM = 300
const rolled = computed(() => !!(step.value?.enabled && (step.value.parameters as { roll?: boolean }).roll))
const roll = (width: number) => set({ width_mm: width, roll: true, name: w.rollOf(mm(width)) })
const sheet = () =>
  set({
    width_mm: material.value!.sheet_width_mm,
    height_mm: material.value!.sheet_height_mm,
    name: w.sheetOf(material.value!.name),
  })
const typed = (side: 0 | 1, value: number) =>
  set({ width_mm: side ? frame.value[0] : value, height_mm: side ? value : frame.value[1], name: w.typed })
</script>

<template>
  <div class="part">
    <h3>{{ w.title }}</h3>
    <p v-if="drawing.drawing">
      {{ mm(frame[0]) }} × {{ mm(frame[1]) }} mm, <span class="quiet">{{ from }}</span>
    </p>
    <p v-if="jobs.head!.statistics.strays" class="strays">
      <span>{{ w.strays(jobs.head!.statistics.strays) }}</span>
      <button @click="bench.wantsAll++">{{ words.statusBar.all }}</button>
    </p>
    <div class="ways">
      <v-btn v-if="material" size="small" variant="outlined" :disabled="!!jobs.busy" @click="sheet">
        {{ w.sheet(mm(material.sheet_width_mm), mm(material.sheet_height_mm)) }}
      </v-btn>
      <v-btn size="small" variant="outlined" :disabled="!!jobs.busy" @click="set({ margin_mm: MARGIN_MM, name: w.theDesign })">
        {{ w.round }}
      </v-btn>
      <v-btn size="small" variant="outlined" :aria-expanded="typing" @click="typing = !typing">{{ w.typeIt }}</v-btn>
      <v-btn v-if="step" size="small" variant="text" :disabled="!!jobs.busy" @click="jobs.dropStep(step.key)">
        {{ w.asItCame }}
      </v-btn>
    </div>
    <LengthField
      :label="w.roll"
      :value="rolled ? frame[0] : (material?.sheet_width_mm ?? ROLL_MM)"
      always
      :disabled="!!jobs.busy"
      @take="roll"
    />
    <div v-if="typing" class="pair">
      <LengthField :label="w.width" :value="frame[0]" :disabled="!!jobs.busy" @take="typed(0, $event)" />
      <LengthField :label="w.height" :value="frame[1]" :disabled="!!jobs.busy" @take="typed(1, $event)" />
    </div>
  </div>
</template>

<style scoped>
.strays {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: baseline;
  gap: 8px;
  color: var(--flag);
  font-weight: 600;
}
.strays button {
  min-height: 24px;
  border: 0;
  padding: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-decoration: underline;
  cursor: pointer;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
</style>
