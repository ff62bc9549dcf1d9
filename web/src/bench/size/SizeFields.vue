<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import { lineLength, number, parseLength } from '@/composables/lengths'
import { useUnits } from '@/composables/units'
import { useDraft } from '@/stores/draft'
import { useJob } from '@/stores/job'
import { words } from '@/words'

import FoldPart from '../FoldPart.vue'
import TickField from '../TickField.vue'
import SizeField from './SizeField.vue'

/** How large it is, typed anew: width, height, per cent, or how much material or line it takes. */
const emit = defineEmits<{ keep: [] }>()
const draft = useDraft()
const jobs = useJob()
const units = useUnits()
const w = words.size

const free = ref(false)
const before = computed(() => jobs.head!.statistics)
const now = computed(() => draft.shown?.after ?? before.value)
const percent = computed(() => (100 * now.value.width_mm) / (before.value.width_mm || 1))
const area = computed(() => draft.shown?.report?.area_mm2 ?? null)

const AIMS = ['width_mm', 'height_mm', 'factor', 'area_mm2', 'line_mm', 'target', 'clear_mm', 'stretch']
function aim(given: Record<string, unknown>) {
  if (draft.operation?.id !== 'resize') return draft.begin('resize', given)
  draft.setAll({ ...Object.fromEntries(AIMS.map((name) => [name, undefined])), ...given })
}
function side(name: 'width_mm' | 'height_mm', value: number) {
  if (!free.value) return aim({ [name]: value })
  const other = name === 'width_mm' ? 'height_mm' : 'width_mm'
  aim({ [other]: draft.values[other] ?? before.value[other], [name]: value, stretch: true })
}
watch(free, (on) => on || !draft.values.stretch || draft.clear())
const text = (value: number) => units.one(value)
const readPercent = (typed: string) => {
  const value = Number(typed.replace(',', '.').replace(/\s*%$/, ''))
  return typed.trim() && Number.isFinite(value) ? value : null
}
const readArea = (typed: string) => {
  const value = Number(typed.replace(',', '.').replace(/\s*(mm(2|²))$/, ''))
  return typed.trim() && Number.isFinite(value) ? value : null
}
</script>

<template>
  <div class="part">
    <h3>{{ w.to }}</h3>
    <div class="three">
      <SizeField
        :label="w.width"
        :value="now.width_mm"
        :show="text"
        :read="parseLength"
        :wrong="words.slide.wrongLength"
        :disabled="!!jobs.busy"
        @typed="side('width_mm', $event)"
        @enter="emit('keep')"
      />
      <SizeField
        :label="w.height"
        :value="now.height_mm"
        :show="text"
        :read="parseLength"
        :wrong="words.slide.wrongLength"
        :disabled="!!jobs.busy"
        @typed="side('height_mm', $event)"
        @enter="emit('keep')"
      />
      <SizeField
        :label="w.percent"
        :value="percent"
        :show="(v) => `${number(v, 1)} %`"
        :read="readPercent"
        :wrong="words.slide.wrongLength"
        :disabled="!!jobs.busy"
        @typed="aim({ factor: $event / 100 })"
        @enter="emit('keep')"
      />
    </div>
    <TickField :label="w.free" :title="w.freeHint" :value="free" @take="(on) => (free = on)" />
    <FoldPart :name="w.more" :set="false">
      <SizeField
        v-if="now.line_mm"
        :label="w.line"
        :value="now.line_mm"
        :show="lineLength"
        :read="parseLength"
        :wrong="words.slide.wrongLength"
        @typed="aim({ line_mm: $event })"
        @enter="emit('keep')"
      />
      <SizeField
        :label="w.area"
        :value="area ?? 0"
        :show="(v) => (v ? `${number(v, 1)} mm²` : '')"
        :read="readArea"
        :wrong="words.slide.wrongLength"
        @typed="aim({ area_mm2: $event })"
        @enter="emit('keep')"
      />
    </FoldPart>
  </div>
</template>

<style scoped>
.three {
  display: grid;
  grid-template-columns: 1fr 1fr 0.8fr;
  align-items: start;
  gap: 8px;
}
</style>
