<script setup lang="ts">
import type { Drawn } from '@/stores/drawing'

/** The work as it will look: fills and strokes in their colours, in paint order. */
defineProps<{ pieces: Drawn[] }>()
</script>

<template>
  <g>
    <path
      v-for="{ piece, layer, shape } in pieces"
      :key="piece.id"
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
