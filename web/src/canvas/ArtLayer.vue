<script setup lang="ts">
import type { Drawn } from '@/stores/drawing'

/** The work as it will look: fills and strokes in their colours, in paint order. */
defineProps<{ pieces: Drawn[] }>()

/** Lines as thin as machine files and drawings have them are seen from afar, too. */
const THIN_MM = 0.25
const isThin = ({ piece }: Drawn) => !piece.fill && (piece.stroke?.width_mm ?? 0) <= THIN_MM
</script>

<template>
  <g>
    <path
      v-for="{ piece, layer, shape } in pieces"
      :key="piece.id"
      :class="{ thin: isThin({ piece, layer, shape }) }"
      :d="shape.d"
      :fill="piece.fill ?? 'none'"
      :fill-opacity="piece.fill_opacity"
      :fill-rule="piece.fill_rule"
      :opacity="piece.opacity"
      :stroke="piece.stroke?.color ?? (piece.fill ? 'none' : layer.color)"
      :stroke-width="piece.stroke?.width_mm ?? 0.1"
      :stroke-opacity="piece.stroke?.opacity ?? 1"
      :stroke-linecap="(piece.stroke?.cap as 'round') ?? 'butt'"
      :stroke-linejoin="(piece.stroke?.join as 'round') ?? 'miter'"
      :stroke-miterlimit="piece.stroke?.miter_limit ?? 4"
      :stroke-dasharray="piece.stroke?.dashes.join(' ') || undefined"
    />
  </g>
</template>

<style scoped>
.thin {
  stroke-width: 1.3px;
  vector-effect: non-scaling-stroke;
}
</style>
