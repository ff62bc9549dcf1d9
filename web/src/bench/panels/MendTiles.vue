<script setup lang="ts">
import { computed } from 'vue'

import type { MendPreview } from '@/api/types'
import { dataOf } from '@/api/unpack'
import { words } from '@/words'

/** Before and after, side by side, at the place in question. */
const props = defineProps<{ preview: MendPreview }>()
const box = computed(() => props.preview.view.join(' '))
const now = computed(() => dataOf(props.preview.now))
const goes = computed(() => dataOf(props.preview.goes))
const mended = computed(() => dataOf(props.preview.mended))
</script>

<template>
  <div class="tiles">
    <figure>
      <svg :viewBox="box" role="img" :aria-label="words.mend.nowLabel">
        <path class="goes" :d="goes" />
        <path class="line" :d="now" :style="{ stroke: preview.colors?.[0] }" />
      </svg>
      <figcaption class="small">{{ words.mend.now(preview.nodes_before) }}</figcaption>
    </figure>
    <figure>
      <svg :viewBox="box" role="img" :aria-label="words.mend.mendedLabel">
        <path class="line" :d="mended" :style="{ stroke: preview.colors?.[1] }" />
      </svg>
      <figcaption class="small">{{ words.mend.mended(preview.nodes_after) }}</figcaption>
    </figure>
  </div>
</template>

<style scoped>
.tiles {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
figure {
  margin: 0;
  border: 1px solid var(--rule);
  border-radius: 8px;
  overflow: hidden;
  background: #fffdf7;
}
svg {
  display: block;
  width: 100%;
  height: 92px;
}
.line {
  fill: none;
  stroke: #1b2a4e;
  stroke-width: 1.8;
  vector-effect: non-scaling-stroke;
}
.goes {
  fill: none;
  stroke: #c2361f;
  stroke-opacity: 0.3;
  stroke-width: 9;
  vector-effect: non-scaling-stroke;
}
figcaption {
  padding: 3px 8px 4px;
  border-top: 1px solid #d3cab6;
  color: #4a577a;
}
</style>
