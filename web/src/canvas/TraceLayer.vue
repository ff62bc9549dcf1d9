<script setup lang="ts">
import type { TracePreview } from '@/api/previews'

/** The lines that a trace would give, and its pieces in their colours where there are several layers. */
defineProps<{ shown: TracePreview | null }>()
</script>

<template>
  <g>
    <template v-if="shown && shown.layers.length > 1">
      <path
        v-for="(d, k) in shown.fills"
        :key="k"
        class="fill"
        :d="d"
        fill-rule="evenodd"
        :style="shown.layers[k].lines ? { stroke: shown.layers[k].color } : { fill: shown.layers[k].color }"
      />
    </template>
    <path
      class="found"
      :class="{ plain: shown?.layers.length === 1 && !shown.layers[0].lines }"
      :d="shown?.d ?? ''"
      fill-rule="evenodd"
      :data-number="shown?.number ?? 0"
    />
  </g>
</template>

<style scoped>
.found {
  fill: none;
  stroke: var(--print);
  stroke-width: 1.3px;
  stroke-linejoin: round;
  vector-effect: non-scaling-stroke;
}
.plain {
  fill: var(--print);
  fill-opacity: 0.07;
}
.fill {
  fill: none;
  opacity: 0.82;
}
</style>
