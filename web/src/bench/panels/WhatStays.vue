<script setup lang="ts">
import { computed } from 'vue'

import { useDraft } from '@/stores/draft'
import { useJob } from '@/stores/job'
import { words } from '@/words'

import FoldPart from '../FoldPart.vue'
import ParameterField from '../ParameterField.vue'
import TickField from '../TickField.vue'

/** What keeps its size while the design gets another: round holes, strokes, and the numbers of steps. */
const draft = useDraft()
const jobs = useJob()
const w = words.size

const parameter = (name: string) => draft.operation?.parameters.find((one) => one.name === name)
const holes = computed(() => parameter('holes_mm'))
const strokes = computed(() => parameter('lines'))
/** A step that is reopened stands in its place; only a new one can go before others. */
const steps = computed(() => (draft.key ? [] : (jobs.head?.sizes ?? [])))
const toggle = (key: string, on: boolean) => draft.keepNumbers(on ? [...draft.kept, key] : draft.kept.filter((one) => one !== key))
const isSet = computed(() => !!draft.kept.length || !!draft.values.holes_mm || !!draft.values.lines)
function reset() {
  draft.kept = []
  draft.setAll({ holes_mm: undefined, lines: undefined })
}
</script>

<template>
  <FoldPart :name="w.stays" :set="isSet" @reset="reset">
    <label v-if="holes" class="row">
      <span :title="holes.help">{{ w.holes }}</span>
      <ParameterField :parameter="holes" :values="draft.values" @set="draft.set(holes!, $event)" />
    </label>
    <TickField v-if="strokes" :label="w.strokes" :value="!!draft.values.lines" @take="(on) => draft.set(strokes!, on || undefined)" />
    <p v-if="steps.length" class="small quiet">{{ w.staysHint }}</p>
    <TickField
      v-for="step in steps"
      :key="step.key"
      :label="step.words"
      :value="draft.kept.includes(step.key)"
      @take="(on) => toggle(step.key, on)"
    />
  </FoldPart>
</template>

<style scoped>
.row {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
}
p {
  margin: 0;
}
</style>
