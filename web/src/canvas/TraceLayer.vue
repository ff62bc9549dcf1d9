<script setup lang="ts">
/** The outlines that a trace would give; lines: some are single lines, which hold nothing. */
defineProps<{ d: string; number: number; lines: boolean }>()
</script>

<template>
  <path class="found" :class="{ lines }" :d="d" fill-rule="evenodd" :data-number="number" />
</template>

<style scoped>
.found {
  fill: var(--print);
  fill-opacity: 0.07;
  stroke: var(--print);
  stroke-width: 1.3px;
  stroke-linejoin: round;
  vector-effect: non-scaling-stroke;
}
.lines {
  fill: none;
}
</style>
