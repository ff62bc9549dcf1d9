<script setup lang="ts">
import { computed } from 'vue'

import { words } from '@/words'

/** A line across the work that parts two views of it; it is dragged, or moved with the arrow keys. */
const props = defineProps<{ share: number; width: number; height: number; names: [string, string] }>()
const emit = defineEmits<{ move: [share: number] }>()

const x = computed(() => props.share * props.width)
/** Names of states may be long; what does not fit a plate is cut. */
const LONGEST = 34
const short = (name: string) => (name.length > LONGEST ? `${name.slice(0, LONGEST - 1)}…` : name)
const wide = (name: string) => short(name).length * 6.6 + 24
const to = (share: number) => emit('move', Math.min(Math.max(share, 0.02), 0.98))

function down(event: PointerEvent) {
  event.stopPropagation()
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
}
function move(event: PointerEvent) {
  const target = event.currentTarget as SVGGElement
  if (!target.hasPointerCapture(event.pointerId)) return
  event.stopPropagation()
  const box = target.ownerSVGElement!.getBoundingClientRect()
  to((event.clientX - box.left) / box.width)
}
function key(event: KeyboardEvent) {
  const by = { ArrowLeft: -0.02, ArrowRight: 0.02, Home: -1, End: 1 }[event.key]
  if (by === undefined) return
  event.preventDefault()
  event.stopPropagation()
  to(props.share + by)
}
</script>

<template>
  <g class="divider">
    <line class="under" :x1="x" y1="0" :x2="x" :y2="height" />
    <line :x1="x" y1="0" :x2="x" :y2="height" />
    <g v-for="(name, side) in names" :key="side" :transform="`translate(${x + (side ? 1 : -1) * (wide(name) / 2 + 18)} ${height - 26})`">
      <rect :x="-wide(name) / 2" y="-13" :width="wide(name)" height="24" rx="12" />
      <text text-anchor="middle" y="4">{{ short(name) }}</text>
    </g>
    <g
      class="handle"
      tabindex="0"
      role="slider"
      :aria-label="words.looks.divider(...names)"
      aria-valuemin="0"
      aria-valuemax="100"
      :aria-valuenow="Math.round(share * 100)"
      :transform="`translate(${x} ${height * 0.82})`"
      @pointerdown="down"
      @pointermove="move"
      @keydown="key"
    >
      <rect x="-22" y="-15" width="44" height="30" rx="15" />
      <path d="M-7 -5L-12 0L-7 5M7 -5L12 0L7 5" />
    </g>
  </g>
</template>

<style scoped>
/* Dark on the paper, with a pale rim on whatever is darker. */
line {
  stroke: var(--print);
  stroke-width: 2px;
}
.under {
  stroke: var(--paper);
  stroke-width: 4px;
}
rect {
  fill: var(--print);
  stroke: var(--paper);
}
.divider > g:not(.handle) rect {
  opacity: 0.9;
}
text {
  fill: var(--paper);
  font-size: 12.5px;
}
.handle {
  cursor: ew-resize;
}
.handle path {
  fill: none;
  stroke: var(--paper);
  stroke-width: 2px;
  stroke-linecap: round;
  stroke-linejoin: round;
}
.handle:focus-visible {
  outline: none;
}
.handle:focus-visible rect {
  stroke: var(--pick);
  stroke-width: 3px;
}
</style>
