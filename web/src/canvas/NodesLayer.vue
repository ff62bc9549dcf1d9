<script setup lang="ts">
import { computed } from 'vue'

import type { Viewport } from '@/composables/viewport'
import type { Drawn } from '@/stores/drawing'

/** Nodes of what is in view, in screen pixels: corners as squares, smooth ones as circles, the start with its way. */
const props = defineProps<{ pieces: Drawn[]; viewport: Viewport }>()

/** More than this many are a blur, and slow: then they wait until somebody zooms in. */
const MOST = 3000
const HALF = 3.5

const marks = computed(() => {
  const { view, size } = props.viewport
  let squares = ''
  let rounds = ''
  let number = 0
  for (const { shape } of props.pieces) {
    for (let i = 0; i < shape.corners.length; i++) {
      const x = shape.nodes[2 * i] * view.scale + view.x
      const y = shape.nodes[2 * i + 1] * view.scale + view.y
      if (x < -9 || y < -9 || x > size.width + 9 || y > size.height + 9) continue
      if (++number > MOST) return null
      if (shape.corners[i]) squares += `M${x - HALF} ${y - HALF}h7v7h-7z`
      else rounds += `M${x - HALF} ${y}a3.5 3.5 0 1 0 7 0a3.5 3.5 0 1 0 -7 0z`
    }
  }
  return { squares, rounds }
})
</script>

<template>
  <g v-if="marks" class="nodes">
    <path :d="marks.squares" />
    <path :d="marks.rounds" />
  </g>
</template>

<style scoped>
.nodes path {
  fill: #fffdf7;
  stroke: #2f5fd0;
  stroke-width: 1.4;
}
</style>
