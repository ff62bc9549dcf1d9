<script setup lang="ts">
import { computed } from 'vue'

import { useJob } from '@/stores/job'
import { useSheets } from '@/stores/sheets'
import { words } from '@/words'

import FoldPart from '../FoldPart.vue'
import LengthField from '../LengthField.vue'

/** What is otherwise of the sheet that is shown: its size, its margin, and where it lies on its carrier. */
const sheets = useSheets()
const jobs = useJob()
const w = words.sheets.own
const sheet = computed(() => sheets.sheet!)
const at = (x: number, y: number) => void sheets.own({ at: [x, y] })
</script>

<template>
  <FoldPart v-if="sheets.sheet" class="own-sheet" :name="`${w.title}: ${sheet.name}`" :set="false">
    <div class="own" data-own-enter>
      <LengthField :label="w.width" :value="sheet.width_mm" :disabled="!!jobs.busy" @take="sheets.own({ width_mm: $event })" />
      <LengthField :label="w.height" :value="sheet.height_mm" :disabled="!!jobs.busy" @take="sheets.own({ height_mm: $event })" />
      <template v-if="sheet.carrier">
        <LengthField :label="w.left" :value="sheet.at[0]" :disabled="!!jobs.busy" @take="at($event, sheet.at[1])" />
        <LengthField :label="w.top" :value="sheet.at[1]" :disabled="!!jobs.busy" @take="at(sheet.at[0], $event)" />
      </template>
      <LengthField :label="w.margin" :value="sheet.margin_mm" :disabled="!!jobs.busy" @take="sheets.own({ margin_mm: $event })" />
    </div>
  </FoldPart>
</template>

<style scoped>
.own-sheet {
  padding: 10px 18px;
  border-top: 1px solid var(--rule);
}
.own {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
}
</style>
