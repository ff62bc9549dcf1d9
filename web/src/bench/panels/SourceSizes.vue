<script setup lang="ts">
import { computed } from 'vue'

import type { StepDone } from '@/api/types'
import { mm } from '@/composables/lengths'
import { useJob } from '@/stores/job'
import { words } from '@/words'

import LengthField from '../LengthField.vue'

/** Other sizes that a file may be meant to have, each one press; or its true width or height, typed. */
const props = defineProps<{ step: StepDone }>()
const emit = defineEmits<{ done: [] }>()
const jobs = useJob()
const figures = computed(() => props.step.statistics as { width_mm: number; height_mm: number; scale: number })
/** As it was read: the way back. */
const choices = computed(() => {
  const { width_mm: width, height_mm: height, scale } = figures.value
  const sizes = props.step.source!.sizes.filter((s) => Math.abs(s.factor / scale - 1) > 1e-6)
  if (scale === 1) return sizes
  return [{ reading: '', factor: 1, width_mm: width / scale, height_mm: height / scale, in_words: words.source.first }, ...sizes]
})

async function take(scale: number, reading: string) {
  const parameters = { ...(props.step.parameters as object), scale, reading }
  if (await jobs.changeStep(words.busy.sizing, props.step.key, parameters)) emit('done')
}
const typed = (side: 'width_mm' | 'height_mm', value: number) => void take((figures.value.scale * value) / figures.value[side], '')
</script>

<template>
  <div class="sizes">
    <ul>
      <li v-for="c in choices" :key="c.reading">
        <button :disabled="!!jobs.busy" @click="take(c.factor, c.reading)">
          <b>{{ mm(c.width_mm) }} × {{ mm(c.height_mm) }} mm</b>
          <span class="small">{{ c.in_words }}</span>
          <span v-if="c.reading" class="small quiet">{{ c.reading }}</span>
        </button>
      </li>
    </ul>
    <div class="pair">
      <LengthField :label="words.source.trueWidth" :value="figures.width_mm" :disabled="!!jobs.busy" @take="typed('width_mm', $event)" />
      <LengthField :label="words.source.trueHeight" :value="figures.height_mm" :disabled="!!jobs.busy" @take="typed('height_mm', $event)" />
    </div>
  </div>
</template>

<style scoped>
.sizes {
  display: grid;
  gap: 12px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 6px;
}
ul button {
  display: grid;
  width: 100%;
  padding: 6px 12px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--panel);
  text-align: left;
  cursor: pointer;
}
ul button:hover {
  border-color: var(--ink);
}
</style>
