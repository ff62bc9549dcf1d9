<script setup lang="ts">
import { mdiClose } from '@mdi/js'

import { useUnits } from '@/composables/units'
import { useBench } from '@/stores/bench'
import { useRuler } from '@/stores/ruler'
import { words } from '@/words'

import IconButton from './IconButton.vue'

/** What the ruler says. */
const ruler = useRuler()
const bench = useBench()
const units = useUnits()
</script>

<template>
  <div class="ruler" role="status">
    <template v-if="ruler.measured">
      <b>{{ units.text(ruler.measured.distance_mm) }}</b>
      <span class="quiet">{{
        words.ruler.across(units.text(Math.abs(ruler.measured.across_mm)), units.text(Math.abs(ruler.measured.down_mm)))
      }}</span>
      <button class="unit" :aria-label="words.picked.unit(units.unit)" @click="units.toggle()">{{ units.unit }}</button>
    </template>
    <span v-else-if="ruler.problem" class="flag">{{ ruler.problem }}</span>
    <span v-else>{{ ruler.from ? words.ruler.second : words.ruler.first }}</span>
    <IconButton :icon="mdiClose" :name="words.ruler.away" keys="Esc" @press="bench.ruler = false" />
  </div>
</template>

<style scoped>
.ruler {
  position: absolute;
  left: 50%;
  bottom: 14px;
  transform: translateX(-50%);
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 4px 6px 4px 16px;
  white-space: nowrap;
  border: 1px solid var(--rule);
  border-radius: 10px;
  background: var(--raised);
}
.unit {
  height: 28px;
  padding: 0 10px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--panel);
  cursor: pointer;
}
.flag {
  color: var(--flag);
}
</style>
