<script setup lang="ts">
import { computed } from 'vue'

import { useJob } from '@/stores/job'
import { useLibrary } from '@/stores/library'
import { useSheets } from '@/stores/sheets'
import { words } from '@/words'

import FoldPart from '../FoldPart.vue'
import LengthField from '../LengthField.vue'
import TickField from '../TickField.vue'

/** What is otherwise of the sheet that is shown: its size, its margin, and where it lies on its carrier. */
const sheets = useSheets()
const jobs = useJob()
const w = words.sheets.own
const sheet = computed(() => sheets.sheet!)
const library = useLibrary()
/** Stock of the sheet's material first. */
const stock = computed(() => {
  const fits = (material: string) => Number(material !== '' && material === sheet.value.material)
  return [...library.library.stock].sort((a, b) => fits(b.material) - fits(a.material))
})
function take(id: string) {
  const one = library.library.stock.find((each) => each.id === id)
  if (one) void sheets.own({ width_mm: one.width_mm, height_mm: one.height_mm, outline: one.outline, margin_mm: one.margin_mm })
}
/** Another machine has another carrier, on whose reach the sheet begins. */
function goTo(id: string) {
  const one = library.library.machines.find((each) => each.id === (id || jobs.head!.settings.machine))
  void sheets.own({ machine: id, at: one ? [one.reach_left_mm, one.reach_top_mm] : [0, 0] })
}
const ofJob = computed(() => library.library.machines.find((each) => each.id === jobs.head!.settings.machine)?.name ?? '')
const at = (x: number, y: number) => void sheets.own({ at: [x, y] })
</script>

<template>
  <div v-if="sheets.sheet" class="own-sheet">
    <label class="stock small">
      <span>{{ w.stock }}</span>
      <select value="" :aria-label="w.stock" :disabled="!!jobs.busy" @change="take(($event.target as HTMLSelectElement).value)">
        <option value="">{{ w.choose }}</option>
        <option v-for="one in stock" :key="one.id" :value="one.id">{{ one.name }}</option>
      </select>
    </label>
    <label class="stock small">
      <span>{{ w.machine }}</span>
      <select
        :value="sheet.machine ?? ''"
        :aria-label="w.machine"
        :disabled="!!jobs.busy"
        @change="goTo(($event.target as HTMLSelectElement).value)"
      >
        <option value="">{{ w.ofJob(ofJob) }}</option>
        <option v-for="one in library.library.machines" :key="one.id" :value="one.id">{{ one.name }}</option>
      </select>
    </label>
    <TickField v-if="sheet.grain" :label="w.across" :value="sheet.grain_across" @take="(on) => void sheets.own({ grain_across: on })" />
    <FoldPart :name="`${w.title}: ${sheet.name}`" :set="false">
      <div class="own" data-own-enter>
        <LengthField :label="w.width" :value="sheet.width_mm" :disabled="!!jobs.busy" @take="sheets.own({ width_mm: $event })" />
        <LengthField :label="w.height" :value="sheet.height_mm" :disabled="!!jobs.busy" @take="sheets.own({ height_mm: $event })" />
        <template v-if="sheet.carrier">
          <LengthField zero :label="w.left" :value="sheet.at[0]" :disabled="!!jobs.busy" @take="at($event, sheet.at[1])" />
          <LengthField zero :label="w.top" :value="sheet.at[1]" :disabled="!!jobs.busy" @take="at(sheet.at[0], $event)" />
        </template>
        <LengthField zero :label="w.margin" :value="sheet.margin_mm" :disabled="!!jobs.busy" @take="sheets.own({ margin_mm: $event })" />
      </div>
    </FoldPart>
  </div>
</template>

<style scoped>
.stock {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 10px;
  padding: 6px 0 12px;
}
select {
  max-width: 180px;
  height: 30px;
  padding: 0 6px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--raised);
}
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
