<script setup lang="ts">
import { computed } from 'vue'

import type { Viewport } from '@/composables/viewport'
import type { Drawn } from '@/stores/drawing'

/** Nodes of what is in view, in screen pixels: corners as squares, smooth ones as circles, the start with its way. */
const props = defineProps<{ pieces: Drawn[]; viewport: Viewport; lineMm: number; nodes: number }>()

/** More than this many are a blur, and slow: then they wait until somebody zooms in. */
const MOST = 3000
const LARGEST = 3.5
const SMALLEST = 1.4

/** Marks shrink where the nodes stand close, so that the line stays to be seen between them. */
const half = computed(() => {
  const perNode = (props.lineMm / Math.max(props.nodes, 1)) * props.viewport.view.scale
  return Math.min(Math.max(perNode / 14, SMALLEST), LARGEST)
})

const marks = computed(() => {
  const { view, size } = props.viewport
  const h = half.value
  const side = 2 * h
  let squares = ''
  let rounds = ''
  let number = 0
  for (const { shape } of props.pieces) {
    for (let i = 0; i < shape.corners.length; i++) {
      const x = shape.nodes[2 * i] * view.scale + view.x
      const y = shape.nodes[2 * i + 1] * view.scale + view.y
      if (x < -9 || y < -9 || x > size.width + 9 || y > size.height + 9) continue
      if (++number > MOST) return null
      if (shape.corners[i]) squares += `M${x - h} ${y - h}h${side}v${side}h${-side}z`
      else rounds += `M${x - h} ${y}a${h} ${h} 0 1 0 ${side} 0a${h} ${h} 0 1 0 ${-side} 0z`
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
  stroke-width: 1.3;
}
</style>
