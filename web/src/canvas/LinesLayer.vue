<script setup lang="ts">
import { computed } from 'vue'

import type { Drawn } from '@/stores/drawing'

import { PATTERN } from './patterns'

/** Exactly what the tool follows: one ink line for every outline, its pattern telling the treatment. */
const props = defineProps<{ pieces: Drawn[] }>()
const followed = computed(() => props.pieces.filter((d) => d.layer.treatment !== 'print'))
</script>

<template>
  <g class="lines">
    <path
      v-for="{ piece, shape } in pieces"
      :key="`f${piece.id}`"
      class="body"
      :d="shape.d"
      :fill-rule="piece.fill_rule"
      :class="{ bare: !piece.fill }"
    />
    <path
      v-for="{ piece, layer, shape } in followed"
      :key="piece.id"
      class="line"
      :d="shape.d"
      :stroke-dasharray="PATTERN[layer.treatment]"
    />
  </g>
</template>

<style scoped>
.body {
  fill: var(--print);
  opacity: 0.07;
}
.bare {
  fill: none;
}
.line {
  fill: none;
  stroke: var(--print);
  stroke-width: 1.5;
  stroke-linecap: round;
  stroke-linejoin: round;
  vector-effect: non-scaling-stroke;
}
</style>
