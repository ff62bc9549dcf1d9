<script setup lang="ts">
import { mdiFitToPageOutline, mdiMinus, mdiPlus } from '@mdi/js'
import { computed } from 'vue'

import { lineLength, mm } from '@/composables/lengths'
import { useJob } from '@/stores/job'
import { useTrace } from '@/stores/trace'

import IconButton from './IconButton.vue'

defineProps<{ percent: number; tracing: boolean }>()
const emit = defineEmits<{ zoom: [factor: number]; all: [] }>()
const jobs = useJob()
const trace = useTrace()
const figures = computed(() => jobs.head?.figures)
</script>

<template>
  <footer class="readout">
    <template v-if="tracing && trace.shown">
      <span><b>{{ trace.shown.pieces.toLocaleString('en') }}</b> {{ trace.shown.pieces === 1 ? 'piece' : 'pieces' }}</span>
      <span><b>{{ trace.shown.nodes.toLocaleString('en') }}</b> nodes</span>
      <span>line <b>{{ lineLength(trace.shown.line_mm) }}</b></span>
      <span class="wide">
        off the picture's edge by <b>{{ trace.shown.mean_mm.toFixed(3) }} mm</b>, at most
        <b>{{ trace.shown.max_mm.toFixed(2) }}</b>
      </span>
    </template>
    <template v-else-if="figures && figures.pieces">
      <span><b>{{ mm(figures.width_mm) }} × {{ mm(figures.height_mm) }}</b> mm</span>
      <span><b>{{ figures.pieces.toLocaleString('en') }}</b> {{ figures.pieces === 1 ? 'piece' : 'pieces' }}</span>
      <span class="wide"><b>{{ figures.outlines.toLocaleString('en') }}</b> {{ figures.outlines === 1 ? 'outline' : 'outlines' }}</span>
      <span><b>{{ figures.nodes.toLocaleString('en') }}</b> nodes</span>
      <span>line <b>{{ lineLength(figures.line_mm) }}</b></span>
    </template>
    <span class="spring" />
    <IconButton :icon="mdiMinus" name="Farther" keys="-" @press="emit('zoom', 1 / 1.4)" />
    <span class="percent">{{ percent < 10 ? percent.toFixed(1) : Math.round(percent) }} %</span>
    <IconButton :icon="mdiPlus" name="Nearer" keys="+" @press="emit('zoom', 1.4)" />
    <IconButton :icon="mdiFitToPageOutline" name="Show everything" keys="0" @press="emit('all')" />
  </footer>
</template>

<style scoped>
.readout {
  display: flex;
  align-items: center;
  gap: 20px;
  padding: 0 8px 0 16px;
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
.spring {
  flex: 1;
}
.percent {
  min-width: 52px;
  text-align: center;
  margin: 0 -16px;
}
@media (max-width: 1100px) {
  .wide {
    display: none;
  }
}
</style>
