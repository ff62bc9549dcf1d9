<script setup lang="ts">
import { computed } from 'vue'

import { useSheets } from '@/stores/sheets'
import { words } from '@/words'

import SheetView from './SheetView.vue'

/** The sheet that is chosen, on its carrier as the tool sees it; one that is cut from the back also as it looks. */
const sheets = useSheets()
const w = words.sheets
const views = computed(() => (sheets.sheet?.mirrored ? [true, false] : [true]))
</script>

<template>
  <div v-if="sheets.sheet" class="board">
    <figure v-for="tool in views" :key="String(tool)">
      <figcaption v-if="views.length > 1" class="small">{{ tool ? w.asCut : w.asSeen }}</figcaption>
      <SheetView :sheet="sheets.sheet" :as-cut="tool" />
    </figure>
  </div>
</template>

<style scoped>
.board {
  position: absolute;
  inset: 0;
  display: flex;
  gap: 12px;
  padding: 18px;
}
figure {
  flex: 1;
  min-width: 0;
  margin: 0;
  display: flex;
  flex-direction: column;
  gap: 6px;
}
figcaption {
  text-align: center;
  color: var(--ink-2);
  font-weight: 600;
}
</style>
