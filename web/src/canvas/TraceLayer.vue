<script setup lang="ts">
/** The outlines that a trace would give. */
defineProps<{ d: string; number: number }>()
</script>

<template>
  <path class="found" :d="d" fill-rule="evenodd" :data-number="number" />
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
</style>
