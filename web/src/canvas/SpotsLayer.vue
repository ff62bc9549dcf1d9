<script setup lang="ts">
import { useDraft } from '@/stores/draft'
import type { Viewport } from '@/composables/viewport'
import { words } from '@/words'

/** Places on the work at which the step that is set up can be told otherwise, a press each: crossings, corners, strips. */
const props = defineProps<{ viewport: Viewport }>()
const draft = useDraft()
const w = words.build
const placed = ([x, y]: [number, number]) =>
  `translate(${x * props.viewport.view.scale + props.viewport.view.x} ${y * props.viewport.view.scale + props.viewport.view.y})`
const picked = (id: string) => draft.pickedSpots.has(id)
</script>

<template>
  <g v-if="draft.spotted">
    <g
      v-for="(spot, k) in draft.shown?.spots ?? []"
      :key="spot.id"
      class="handle spot"
      :class="{ picked: picked(spot.id) }"
      :transform="placed(spot.at)"
      tabindex="0"
      role="checkbox"
      :aria-checked="picked(spot.id)"
      :aria-label="w.spot(draft.spotted.label, k + 1)"
      @pointerdown.stop
      @click.stop="draft.pickSpot(spot.id)"
      @keydown.space.prevent.stop="draft.pickSpot(spot.id)"
    >
      <circle class="reach" r="12" />
      <circle class="knob" r="6" />
      <path v-if="picked(spot.id)" d="M-3 -3L3 3M-3 3L3 -3" />
    </g>
  </g>
</template>

<style scoped>
.spot {
  cursor: pointer;
  outline: none;
}
.reach {
  fill: transparent;
}
.knob {
  fill: #fffdf7;
  stroke: #2f5fd0;
  stroke-width: 1.5;
}
.spot:hover .knob,
.spot:focus-visible .knob {
  stroke-width: 3.5;
}
.picked .knob {
  fill: #c2361f;
  stroke: #c2361f;
}
path {
  stroke: #fffdf7;
  stroke-width: 1.6;
}
</style>
