<script setup lang="ts">
import { mdiFitToPageOutline, mdiMinus, mdiPlus } from '@mdi/js'
import { computed } from 'vue'

import { number } from '@/composables/lengths'
import { useUnits } from '@/composables/units'
import { useBench } from '@/stores/bench'
import { useJob } from '@/stores/job'
import { useTrace } from '@/stores/trace'
import { words } from '@/words'

import IconButton from './IconButton.vue'

const w = words.statusBar
defineProps<{ percent: number; tracing: boolean }>()
const emit = defineEmits<{ zoom: [factor: number]; all: [] }>()
const bench = useBench()
const jobs = useJob()
const trace = useTrace()
const units = useUnits()
const figures = computed(() => jobs.head?.statistics)
</script>

<template>
  <footer class="readout">
    <template v-if="tracing && trace.shown">
      <span
        ><b>{{ number(trace.shown.pieces) }}</b> {{ w.pieces(trace.shown.pieces) }}</span
      >
      <span
        ><b>{{ number(trace.shown.nodes) }}</b> {{ w.nodes(trace.shown.nodes) }}</span
      >
      <span
        >{{ w.line }} <b>{{ units.line(trace.shown.line_mm) }}</b></span
      >
      <span class="wide">
        {{ w.off }} <b>{{ trace.shown.mean_mm.toFixed(3) }} mm</b>{{ w.atMost }}
        <b>{{ trace.shown.max_mm.toFixed(2) }}</b>
      </span>
    </template>
    <template v-else-if="figures && figures.pieces">
      <span
        ><b>{{ units.size(figures.width_mm, figures.height_mm) }}</b></span
      >
      <span
        ><b>{{ number(figures.pieces) }}</b> {{ w.pieces(figures.pieces) }}</span
      >
      <span class="wide"
        ><b>{{ number(figures.outlines) }}</b> {{ w.outlines(figures.outlines) }}</span
      >
      <span
        ><b>{{ number(figures.nodes) }}</b> {{ w.nodes(figures.nodes) }}</span
      >
      <span
        >{{ w.line }} <b>{{ units.line(figures.line_mm) }}</b></span
      >
    </template>
    <span class="spring" />
    <IconButton :icon="mdiMinus" :name="w.farther" keys="-" @press="emit('zoom', 1 / 1.4)" />
    <button
      class="percent"
      :title="words.size.asLarge"
      :aria-label="`${Math.round(percent)} %, ${words.size.asLarge}`"
      @click="bench.wantsTrueSize++"
    >
      {{ percent < 10 ? percent.toFixed(1) : Math.round(percent) }} %
    </button>
    <IconButton :icon="mdiPlus" :name="w.nearer" keys="+" @press="emit('zoom', 1.4)" />
    <IconButton :icon="mdiFitToPageOutline" :name="w.all" keys="0" @press="emit('all')" />
  </footer>
</template>

<style scoped>
.readout {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 0 6px 0 14px;
  background: var(--panel);
  border-top: 1px solid var(--rule);
  color: var(--ink-2);
  font-size: 12.5px;
  white-space: nowrap;
  overflow: hidden;
}
b {
  color: var(--ink);
  font-weight: 700;
}
/* What is told gives way to what is pressed. */
.wide {
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
}
.spring {
  flex: 1;
}
.percent {
  min-width: 46px;
  min-height: 24px;
  padding: 0;
  border: 0;
  border-radius: 6px;
  background: none;
  color: inherit;
  text-align: center;
  margin: 0 -10px;
  cursor: pointer;
}
@media (max-width: 1100px) {
  .wide {
    display: none;
  }
}
</style>
