<script setup lang="ts">
import { computed } from 'vue'

import type { LinesSent } from '@/api/types'
import { dataOf } from '@/api/unpack'

/** A soft glow under lines that need attention; the line itself stays an ink line. */
const props = defineProps<{ lines: LinesSent }>()
const d = computed(() => dataOf(props.lines))
</script>

<template>
  <path class="halo" :d="d" />
</template>

<style scoped>
.halo {
  fill: none;
  stroke: #c2361f;
  stroke-opacity: 0.3;
  stroke-width: 9;
  stroke-linecap: round;
  stroke-linejoin: round;
  vector-effect: non-scaling-stroke;
}
</style>
