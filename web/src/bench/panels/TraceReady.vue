<script setup lang="ts">
import { computed } from 'vue'

import { number } from '@/composables/lengths'
import { useTrace } from '@/stores/trace'
import { isPlain, type OptionName } from '@/stores/traceOptions'
import { useTraceTool } from '@/stores/traceTool'
import { words } from '@/words'

import FoldPart from '../FoldPart.vue'
import RowField from '../RowField.vue'
import TickField from '../TickField.vue'

/** The picture made ready: a part of it, straightened, inverted, calmed, its light evened. */
const w = words.trace
const trace = useTrace()
const tools = useTraceTool()
const NAMES: OptionName[] = ['crop', 'turned_degrees', 'inverted', 'calmed', 'even_light']
const set = computed(() => NAMES.some((name) => !isPlain(trace.options, name)))
const degrees = (v: number) => `${number(v, 2)}°`
const readDegrees = (text: string) => {
  const value = Number(text.replace('°', '').replace(',', '.').trim())
  return Math.abs(value) <= 180 ? value : undefined
}
const ticks: { name: 'inverted' | 'calmed' | 'even_light'; label: string }[] = [
  { name: 'inverted', label: w.inverted },
  { name: 'calmed', label: w.calmed },
  { name: 'even_light', label: w.evenLight },
]
const level = computed(() => trace.proposal?.level_degrees ?? null)
</script>

<template>
  <FoldPart :name="w.ready" :set="set" @reset="trace.reset(...NAMES)">
    <div class="line">
      <button class="tool" :aria-pressed="tools.tool === 'crop'" @click="tools.choose('crop')">{{ w.crop }}</button>
      <button v-if="trace.options.crop.length" class="away" @click="trace.reset('crop')">{{ w.whole }}</button>
    </div>
    <RowField
      :label="w.turn"
      :value="trace.options.turned_degrees"
      :show="degrees"
      :read="readDegrees"
      :wrong="w.wrongDegrees"
      @take="(v) => trace.tell('turned_degrees', v ?? 0)"
    />
    <button
      v-if="level !== null && Math.abs(level - trace.options.turned_degrees) > 0.004"
      class="away"
      @click="trace.tell('turned_degrees', level)"
    >
      {{ w.level(degrees(level)) }}
    </button>
    <TickField
      v-for="one in ticks"
      :key="one.name"
      :label="one.label"
      :value="trace.options[one.name]"
      @take="(v) => trace.tell(one.name, v)"
    />
  </FoldPart>
</template>

<style scoped>
.line {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
}
</style>
