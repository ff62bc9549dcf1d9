<script setup lang="ts">
import { ref } from 'vue'

import { useDraftHandles, type DraftHandle } from '@/composables/draftHandles'
import type { Viewport } from '@/composables/viewport'
import { valueOf } from '@/composables/sentence'
import { useDraft } from '@/stores/draft'
import { words } from '@/words'

/** The parameters of the step that is set up, on the work: the same figures as in the sentence, moved by mouse, touch and
 * arrow keys. */
const props = defineProps<{ viewport: Viewport }>()
const draft = useDraft()
const handles = useDraftHandles()
const held = ref('')
const layer = ref<SVGGElement | null>(null)

const toScreen = ([x, y]: [number, number]): [number, number] => [
  x * props.viewport.view.scale + props.viewport.view.x,
  y * props.viewport.view.scale + props.viewport.view.y,
]
function placeOf(event: PointerEvent): [number, number] {
  const box = layer.value!.ownerSVGElement!.getBoundingClientRect()
  const { view } = props.viewport
  return [(event.clientX - box.left - view.x) / view.scale, (event.clientY - box.top - view.y) / view.scale]
}

function press(event: PointerEvent, handle: DraftHandle) {
  if (event.button) return
  const target = event.currentTarget as Element
  target.setPointerCapture(event.pointerId)
  held.value = handle.id
  event.stopPropagation()
}
function move(event: PointerEvent, handle: DraftHandle) {
  if (held.value !== handle.id) return
  event.stopPropagation()
  set(handle, handle.valueAt(placeOf(event)), false)
}
function lift(event: PointerEvent, handle: DraftHandle) {
  if (held.value !== handle.id) return
  held.value = ''
  event.stopPropagation()
  set(handle, valueOf(handle.parameter, draft.values), true)
}
function set(handle: DraftHandle, value: unknown, resting: boolean) {
  const { low, high } = handle.parameter
  const within = typeof value === 'number' ? Math.min(Math.max(value, low ?? value), high ?? value) : value
  draft.set(handle.parameter, within, resting)
}

const BY: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }
function key(event: KeyboardEvent, handle: DraftHandle) {
  const by = BY[event.key]
  if (!by) return
  event.preventDefault()
  event.stopPropagation()
  const value = valueOf(handle.parameter, draft.values)
  const step = (handle.parameter.step ?? 1) * (event.shiftKey ? 10 : 1)
  if (handle.along === 'both') {
    const [x, y] = handle.at
    return set(handle, handle.valueAt([x + by[0] * step, y + by[1] * step]), true)
  }
  // To the right and up is more.
  set(handle, Math.round((Number(value ?? 0) + (by[0] - by[1]) * step) * 1000) / 1000, true)
}
</script>

<template>
  <g ref="layer">
    <g v-for="handle in handles" :key="handle.id">
      <line
        class="arm"
        :x1="toScreen(handle.from)[0]"
        :y1="toScreen(handle.from)[1]"
        :x2="toScreen(handle.at)[0]"
        :y2="toScreen(handle.at)[1]"
      />
      <g
        class="handle"
        :class="{ held: held === handle.id }"
        :transform="`translate(${toScreen(handle.at).join(' ')})`"
        tabindex="0"
        role="slider"
        :aria-label="words.build.handle(handle.parameter.label, handle.text)"
        :aria-valuenow="
          typeof valueOf(handle.parameter, draft.values) === 'number' ? Number(valueOf(handle.parameter, draft.values)) : undefined
        "
        :aria-valuetext="handle.text"
        @pointerdown="press($event, handle)"
        @pointermove="move($event, handle)"
        @pointerup="lift($event, handle)"
        @pointercancel="lift($event, handle)"
        @keydown="key($event, handle)"
      >
        <circle class="reach" r="16" />
        <circle class="knob" r="7" />
        <g class="plate" :class="{ aside: handle.parameter.by_press }" transform="translate(14 -12)">
          <rect x="0" y="-14" :width="handle.text.length * 7.4 + 14" height="22" rx="4" />
          <text x="7" y="1.5">{{ handle.text }}</text>
        </g>
      </g>
    </g>
  </g>
</template>

<style scoped>
.arm {
  stroke: var(--pick-on-paper, #2f5fd0);
  stroke-width: 1;
  stroke-dasharray: 3 3;
}
.handle {
  cursor: grab;
  pointer-events: all;
  touch-action: none;
  outline: none;
}
.held {
  cursor: grabbing;
}
.reach {
  fill: transparent;
}
.knob {
  fill: #fffdf7;
  stroke: #2f5fd0;
  stroke-width: 2.5;
}
.handle:focus-visible .knob {
  stroke-width: 5;
}
/* What a press has set is told by what it measures. */
.handle:not(.held, :focus-visible) .aside {
  display: none;
}
.plate rect {
  fill: #1b2a4e;
}
.plate text {
  fill: #fffdf7;
  font: 650 12.5px var(--v-font-body, sans-serif);
  font-variant-numeric: tabular-nums;
}
</style>
