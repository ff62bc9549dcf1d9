<script setup lang="ts">
import { computed, nextTick, onMounted, onUnmounted } from 'vue'

import { useUnits, UNITS } from '@/composables/units'
import { useDraft } from '@/stores/draft'
import { useDrawing } from '@/stores/drawing'
import { useJob } from '@/stores/job'
import { words } from '@/words'

import FeatureChoices from '../size/FeatureChoices.vue'
import FitChoices from '../size/FitChoices.vue'
import MeasureList from '../size/MeasureList.vue'
import ScreenSize from '../size/ScreenSize.vue'
import SizeFields from '../size/SizeFields.vue'
import TargetPart from '../size/TargetPart.vue'
import PanelFrame from '../PanelFrame.vue'
import DraftEffect from './DraftEffect.vue'
import DraftPanel from './DraftPanel.vue'
import WhatStays from './WhatStays.vue'

/** How large the design is, to be typed, fitted, or set by what is known of it; and what is measured. */
const draft = useDraft()
const drawing = useDrawing()
const jobs = useJob()
const units = useUnits()
const w = words.size

const figures = computed(() => jobs.head!.statistics)
const empty = computed(() => !figures.value.pieces)
/** A plain size is set up here; all else has a form of its own. */
const here = computed(() => draft.operation?.id === 'resize' && !draft.key)
const others = computed(() => !!draft.operation && !here.value)

async function keep() {
  await nextTick()
  if (here.value) await draft.keep()
}
function key(event: KeyboardEvent) {
  if (event.key !== 'Escape' || !here.value) return
  event.preventDefault()
  event.stopPropagation()
  draft.clear()
}
onMounted(() => window.addEventListener('keydown', key, true))
onUnmounted(() => {
  window.removeEventListener('keydown', key, true)
  if (!draft.key) draft.clear()
})
</script>

<template>
  <DraftPanel v-if="others" />
  <PanelFrame v-else :title="w.title">
    <template #head>
      <p v-if="empty && !drawing.drawing?.pictures.length" class="quiet">{{ w.empty }}</p>
      <template v-else>
        <p>
          <b>{{ units.size(figures.width_mm, figures.height_mm) }}</b>
        </p>
        <p class="quiet now">
          <span>{{ jobs.head!.size_in_words }}</span>
          <select
            class="small"
            :aria-label="w.unit"
            :value="units.unit"
            @change="units.choose(($event.target as HTMLSelectElement).value as 'mm')"
          >
            <option v-for="one in UNITS" :key="one" :value="one">{{ w.units[one] }}</option>
          </select>
        </p>
      </template>
    </template>
    <template v-if="!empty || drawing.drawing?.pictures.length">
      <SizeFields @keep="keep" />
      <template v-if="here">
        <DraftEffect />
        <div class="part"><WhatStays /></div>
      </template>
      <template v-else>
        <FeatureChoices
          v-if="!empty"
          operation="size-by"
          parameter="feature"
          :title="w.feature"
          :hint="w.featureHint"
          @choose="(kind) => draft.begin('size-by', { feature: kind })"
        />
        <TargetPart v-if="!empty" />
      </template>
      <FitChoices v-if="!empty" />
      <FeatureChoices
        v-if="!empty && !here"
        operation="measure"
        parameter="kind"
        :title="w.measures"
        :hint="w.measuresHint"
        @choose="(kind) => draft.begin('measure', { kind })"
        ><MeasureList
      /></FeatureChoices>
      <ScreenSize v-if="!here" />
    </template>
    <template v-if="here" #foot>
      <v-btn color="primary" size="large" block :disabled="!!draft.problem || !!draft.missing || !!jobs.busy" @click="keep"
        >{{ words.build.keep }} <span class="key">{{ words.build.keepHint }}</span></v-btn
      >
      <v-btn variant="text" block @click="draft.clear()"
        >{{ words.build.letGo }} <span class="key">{{ words.build.letGoHint }}</span></v-btn
      >
    </template>
  </PanelFrame>
</template>

<style scoped>
.now {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 10px;
}
select {
  height: 26px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--raised);
}
.key {
  margin-left: 8px;
  font-weight: 400;
  opacity: 0.75;
}
:deep(.chips) {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
:deep(.chip) {
  min-height: 32px;
  padding: 3px 12px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--panel);
  font-weight: 600;
  text-align: left;
  cursor: pointer;
}
:deep(.chip:hover:enabled) {
  background: var(--raised);
}
</style>
