<script setup lang="ts">
import { computed } from 'vue'

import type { Viewport } from '@/composables/viewport'
import { useTarget } from '@/composables/target'

/** What the work goes onto, under it at true size, with where the work comes nearest to its rim. */
const props = defineProps<{ viewport: Viewport }>()
const { under } = useTarget()
const rim = computed(() => (under.value?.lines ?? []).map((line) => `M${line.join(' ')}Z`).join(''))
const place = ([x, y]: number[]) => {
  const { view } = props.viewport
  return [x * view.scale + view.x, y * view.scale + view.y]
}
const ends = computed(() => (under.value?.ends ?? []).map(place))
const top = computed(() => {
  const points = under.value?.lines[0] ?? [0, 0]
  let k = 0
  for (let i = 0; i < points.length; i += 2) if (points[i + 1] < points[k + 1]) k = i
  return place([points[k], points[k + 1]])
})
const beyond = computed(() => (under.value?.clearance_mm ?? 0) < -0.01)
</script>

<template>
  <g v-if="under">
    <g :transform="viewport.matrix.value"><path class="rim" :d="rim" /></g>
    <text class="name" :x="top[0] + 6" :y="top[1] - 6">{{ under.name }}</text>
    <line class="near" :class="{ beyond }" :x1="ends[0][0]" :y1="ends[0][1]" :x2="ends[1][0]" :y2="ends[1][1]" />
  </g>
</template>

<style scoped>
.rim {
  fill: #8aa0c8;
  fill-opacity: 0.16;
  stroke: #5a6e98;
  stroke-width: 1.4;
  vector-effect: non-scaling-stroke;
}
.name {
  fill: #45587f;
  stroke: #fffdf7;
  stroke-width: 3;
  paint-order: stroke;
  font: 600 12.5px var(--v-font-body);
}
.near {
  stroke: #5a6e98;
  stroke-width: 2;
}
.beyond {
  stroke: #c2361f;
}
</style>
