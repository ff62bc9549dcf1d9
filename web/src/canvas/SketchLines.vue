<script setup lang="ts">
import { computed } from 'vue'

import type { Sketch } from '@/api/types'
import { dataOf } from '@/api/unpack'

/** The coarse lines of a document, filled, as large as there is room. */
const props = defineProps<{ sketch: Sketch }>()
const box = computed(() => {
  const b = props.sketch.box
  if (!b) return '0 0 1 1'
  const margin = Math.max(b[2] - b[0], b[3] - b[1]) * 0.04
  return `${b[0] - margin} ${b[1] - margin} ${b[2] - b[0] + 2 * margin} ${b[3] - b[1] + 2 * margin}`
})
</script>

<template>
  <svg :viewBox="box" aria-hidden="true">
    <slot />
    <path
      v-for="(piece, i) in sketch.pieces"
      :key="i"
      :d="dataOf(piece)"
      :fill="piece.fill ?? 'none'"
      :fill-rule="piece.fill_rule as 'evenodd'"
      :class="{ bare: !piece.fill }"
    />
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
  height: 100%;
}
.bare {
  stroke: #1b2a4e;
  stroke-width: 1;
  vector-effect: non-scaling-stroke;
}
</style>
