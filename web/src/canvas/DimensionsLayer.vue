<script setup lang="ts">
import { computed } from 'vue'

import type { Dimension } from '@/api/types'
import type { Viewport } from '@/composables/viewport'
import { useDraft } from '@/stores/draft'
import { useDrawing } from '@/stores/drawing'
import { words } from '@/words'

import { drawnDimension } from './dimensions'

/** What is measured, on the work: dimension lines with their figures; and the first end of one that is being set. */
const props = defineProps<{ viewport: Viewport }>()
const draft = useDraft()
const drawing = useDrawing()
const rows = computed<(Dimension & { isDraft?: boolean })[]>(() => {
  const now = draft.operation ? draft.shown : null
  const kept = now?.dimensions ?? drawing.drawing?.dimensions ?? []
  return [...kept, ...(now?.marks ?? []).map((one) => ({ ...one, isDraft: true }))].filter((one) => one.size !== null)
})
const toScreen = ([x, y]: number[]): [number, number] => {
  const { view } = props.viewport
  return [x * view.scale + view.x, y * view.scale + view.y]
}
const drawn = computed(() => rows.value.map((one) => ({ ...one, ...drawnDimension(one.kind, one.ends.map(toScreen)) })))
const label = (one: Dimension) => (one.name && one.name !== one.kind ? `${one.name} ${one.text}` : one.text)
const width = (text: string) => text.length * 7 + 14
</script>

<template>
  <g role="list" :aria-label="words.size.measures">
    <g
      v-for="one in drawn"
      :key="one.id"
      role="listitem"
      :aria-label="label(one)"
      class="dimension"
      :class="{ off: one.holds === false, draft: one.isDraft }"
    >
      <path class="halo" :d="one.line" />
      <path class="line" :d="one.line" />
      <g :transform="`translate(${one.at[0] - width(label(one)) / 2} ${one.at[1] + (one.isDraft ? 14 : -10)})`">
        <rect :width="width(label(one))" height="20" rx="4" />
        <text :x="width(label(one)) / 2" y="14">{{ label(one) }}</text>
      </g>
    </g>
    <circle v-if="draft.firstEnd" class="first" :cx="toScreen(draft.firstEnd)[0]" :cy="toScreen(draft.firstEnd)[1]" r="6" />
  </g>
</template>

<style scoped>
.dimension {
  pointer-events: none;
}
.halo {
  fill: none;
  stroke: #fffdf7;
  stroke-width: 4;
  opacity: 0.8;
}
.line {
  fill: none;
  stroke: #1d6b5c;
  stroke-width: 1.6;
}
rect {
  fill: #fffdf7;
  stroke: #1d6b5c;
}
text {
  fill: #14493f;
  font: 650 12.5px var(--v-font-body, sans-serif);
  font-variant-numeric: tabular-nums;
  text-anchor: middle;
}
.draft .line,
.draft rect {
  stroke: #2f5fd0;
}
.draft text {
  fill: #1b2a4e;
}
.off .line,
.off rect {
  stroke: #c2361f;
}
.off text {
  fill: #a22a16;
}
.first {
  fill: #2f5fd0;
  stroke: #fffdf7;
  stroke-width: 2;
}
</style>
