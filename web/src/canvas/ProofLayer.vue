<script setup lang="ts">
import { computed } from 'vue'

import type { Proof } from '@/api/types'
import { dataOf } from '@/api/unpack'
import type { Drawn } from '@/stores/drawing'

import HaloLayer from './HaloLayer.vue'

/** The file, read back from its own bytes, over the design it came from: ink over a broad pale band. */
const props = defineProps<{ pieces: Drawn[]; proof: Proof }>()
const strokes = computed(() => dataOf(props.proof.strokes))
const followed = computed(() => props.pieces.filter((d) => d.layer.treatment !== 'print'))
</script>

<template>
  <g>
    <path v-for="{ piece, shape } in followed" :key="piece.id" class="design" :d="shape.d" />
    <HaloLayer :lines="proof.missing_lines" />
    <HaloLayer :lines="proof.extra_lines" />
    <path class="stroke" :d="strokes" />
  </g>
</template>

<style scoped>
.design {
  fill: none;
  stroke: #2f5fd0;
  stroke-opacity: 0.22;
  stroke-width: 6;
  stroke-linejoin: round;
  stroke-linecap: round;
  vector-effect: non-scaling-stroke;
}
.stroke {
  fill: none;
  stroke: var(--print);
  stroke-width: 1.4;
  stroke-linecap: round;
  stroke-linejoin: round;
  vector-effect: non-scaling-stroke;
}
</style>
