<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Viewport } from '@/composables/viewport'
import { useDraft } from '@/stores/draft'
import { words } from '@/words'

/** Places that were set on the work for the step that is set up, in their order: dragged, moved by arrow keys, taken
 * away by Delete. */
const props = defineProps<{ viewport: Viewport }>()
const draft = useDraft()
const w = words.build
const layer = ref<SVGGElement | null>(null)
const STEP_MM = 0.5

const parameters = computed(() => draft.fields.filter((one) => one.kind === 'places'))
const toScreen = ([x, y]: [number, number]): [number, number] => [
  x * props.viewport.view.scale + props.viewport.view.x,
  y * props.viewport.view.scale + props.viewport.view.y,
]
const line = (name: string) =>
  draft
    .placesOf(name)
    .map((place) => toScreen(place).join(' '))
    .join('L')

let held = ''
function press(event: PointerEvent, name: string, k: number) {
  if (event.button) return
  event.stopPropagation()
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
  held = `${name} ${k}`
}
function move(event: PointerEvent, name: string, k: number) {
  if (held !== `${name} ${k}`) return
  event.stopPropagation()
  const box = layer.value!.ownerSVGElement!.getBoundingClientRect()
  const { view } = props.viewport
  put(name, k, [(event.clientX - box.left - view.x) / view.scale, (event.clientY - box.top - view.y) / view.scale], false)
}
function lift(event: PointerEvent, name: string) {
  if (!held) return
  held = ''
  event.stopPropagation()
  draft.setPlaces(name, draft.placesOf(name))
}
function put(name: string, k: number, to: [number, number], resting: boolean) {
  draft.setPlaces(
    name,
    draft.placesOf(name).map((place, n) => (n === k ? to : place)),
    resting,
  )
}
const BY: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }
function key(event: KeyboardEvent, name: string, k: number) {
  const by = BY[event.key]
  if (!by && event.key !== 'Delete' && event.key !== 'Backspace') return
  event.preventDefault()
  event.stopPropagation()
  const places = draft.placesOf(name)
  if (!by)
    return draft.setPlaces(
      name,
      places.filter((_, n) => n !== k),
    )
  const step = STEP_MM * (event.shiftKey ? 10 : 1)
  put(name, k, [places[k][0] + by[0] * step, places[k][1] + by[1] * step], true)
}
</script>

<template>
  <g ref="layer">
    <g v-for="one in parameters" :key="one.name">
      <path v-if="draft.setting === one.name && draft.placesOf(one.name).length > 1" class="line" :d="`M${line(one.name)}`" />
      <circle
        v-for="(place, k) in draft.placesOf(one.name)"
        :key="k"
        class="handle place"
        :cx="toScreen(place)[0]"
        :cy="toScreen(place)[1]"
        r="6.5"
        tabindex="0"
        role="button"
        :aria-label="w.place(one.label, k + 1)"
        @pointerdown="press($event, one.name, k)"
        @pointermove="move($event, one.name, k)"
        @pointerup="lift($event, one.name)"
        @pointercancel="lift($event, one.name)"
        @click.stop
        @keydown="key($event, one.name, k)"
      />
    </g>
  </g>
</template>

<style scoped>
.line {
  fill: none;
  stroke: #2f5fd0;
  stroke-dasharray: 5 4;
}
.place {
  fill: #2f5fd0;
  stroke: #fffdf7;
  stroke-width: 2;
  cursor: grab;
  touch-action: none;
  outline: none;
}
.place:focus-visible {
  stroke: #1b2a4e;
  stroke-width: 3.5;
}
</style>
