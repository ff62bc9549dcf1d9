<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Spot } from '@/api/drafts'
import { withMoved, type Moved } from '@/bench/lettering/letters'
import type { Viewport } from '@/composables/viewport'
import { useDraft } from '@/stores/draft'
import { words } from '@/words'

/** Letters of the words that are set up, to be taken hold of on the work: moved along and off their baseline, and
 * turned; the same figures as in the panel. */
const props = defineProps<{ viewport: Viewport }>()
const draft = useDraft()
const w = words.lettering
const layer = ref<SVGGElement | null>(null)
const parameter = computed(() => draft.operation!.parameters.find((one) => one.name === 'letters')!)
const moved = computed(() => (draft.values.letters ?? {}) as Record<string, Moved>)
const scale = computed(() => props.viewport.view.scale)
const STEP_MM = 0.5
const ROUND_MM = 0.1

const own = (spot: Spot): Moved => moved.value[spot.id] ?? {}
const placed = ({ at: [x, y], turn }: Spot) =>
  `translate(${x * scale.value + props.viewport.view.x} ${y * scale.value + props.viewport.view.y}) rotate(${turn})`
const shifted = (spot: Spot) =>
  `translate(${(own(spot).along ?? 0) * scale.value} ${-(own(spot).up ?? 0) * scale.value}) rotate(${own(spot).turn ?? 0})`

/** Where a pointer is along a spot's own axes, in mm. */
function within(event: PointerEvent, { at, turn }: Spot): [number, number] {
  const box = layer.value!.ownerSVGElement!.getBoundingClientRect()
  const { view } = props.viewport
  const x = (event.clientX - box.left - view.x) / view.scale - at[0]
  const y = (event.clientY - box.top - view.y) / view.scale - at[1]
  const angle = (turn * Math.PI) / 180
  return [x * Math.cos(angle) + y * Math.sin(angle), y * Math.cos(angle) - x * Math.sin(angle)]
}

function set(spot: Spot, change: Moved, resting: boolean) {
  let next: Record<string, Moved> | undefined = moved.value
  for (const [name, value] of Object.entries(change))
    next = withMoved(next ?? {}, spot.id, name as keyof Moved, Math.round(value * 1000) / 1000)
  draft.set(parameter.value, next && Object.keys(next).length ? next : undefined, resting)
}

let held: { id: string; turning: boolean; from: [number, number]; was: Moved } | null = null
function press(event: PointerEvent, spot: Spot, turning = false) {
  if (event.button) return
  event.stopPropagation()
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
  draft.spot = spot.id
  held = { id: spot.id, turning, from: within(event, spot), was: own(spot) }
}
const rounded = (value: number) => Math.round(value / ROUND_MM) * ROUND_MM
function move(event: PointerEvent, spot: Spot) {
  if (held?.id !== spot.id) return
  event.stopPropagation()
  const [x, y] = within(event, spot)
  const { from, was, turning } = held
  if (turning) {
    const [cx, cy] = [was.along ?? 0, -(was.up ?? 0)]
    return set(spot, { turn: Math.round((Math.atan2(y - cy, x - cx) * 180) / Math.PI + 90) }, false)
  }
  if (Math.hypot(x - from[0], y - from[1]) * scale.value < 3) return
  set(spot, { along: rounded((was.along ?? 0) + x - from[0]), up: rounded((was.up ?? 0) - y + from[1]) }, false)
}
function lift(event: PointerEvent, spot: Spot) {
  if (held?.id !== spot.id) return
  event.stopPropagation()
  held = null
  set(spot, {}, true)
}

const BY: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }
function key(event: KeyboardEvent, spot: Spot) {
  const by = BY[event.key]
  if (!by) return
  event.preventDefault()
  event.stopPropagation()
  draft.spot = spot.id
  const { along = 0, up = 0 } = own(spot)
  const step = STEP_MM * (event.shiftKey ? 10 : 1)
  set(spot, { along: along + by[0] * step, up: up + by[1] * step }, true)
}
</script>

<template>
  <g ref="layer">
    <g v-for="spot in draft.shown?.spots ?? []" :key="spot.id" :transform="placed(spot)">
      <g :transform="shifted(spot)">
        <rect
          class="letter handle"
          :class="{ picked: draft.spot === spot.id }"
          :x="(-spot.size[0] / 2) * scale"
          :y="-spot.size[1] * scale"
          :width="spot.size[0] * scale"
          :height="spot.size[1] * scale"
          tabindex="0"
          role="button"
          :aria-label="w.oneLetter(spot.id)"
          @pointerdown="press($event, spot)"
          @pointermove="move($event, spot)"
          @pointerup="lift($event, spot)"
          @pointercancel="lift($event, spot)"
          @focus="draft.spot = spot.id"
          @keydown="key($event, spot)"
        />
        <g
          v-if="draft.spot === spot.id"
          class="handle turning"
          :transform="`translate(0 ${-spot.size[1] * scale - 22})`"
          role="slider"
          :aria-label="w.moves.turn"
          :aria-valuenow="own(spot).turn ?? 0"
          @pointerdown="press($event, spot, true)"
          @pointermove="move($event, spot)"
          @pointerup="lift($event, spot)"
          @pointercancel="lift($event, spot)"
        >
          <line y2="22" />
          <circle class="reach" r="16" />
          <circle class="knob" r="6" />
        </g>
      </g>
    </g>
  </g>
</template>

<style scoped>
.letter {
  fill: transparent;
  stroke: transparent;
  cursor: move;
  touch-action: none;
  outline: none;
}
.letter:hover {
  stroke: #2f5fd0;
  stroke-dasharray: 3 3;
}
.letter.picked {
  stroke: #2f5fd0;
  stroke-width: 1.5;
}
.letter:focus-visible {
  stroke-width: 3;
}
.turning {
  cursor: grab;
  touch-action: none;
}
.turning line {
  stroke: #2f5fd0;
}
.reach {
  fill: transparent;
}
.knob {
  fill: #fffdf7;
  stroke: #2f5fd0;
  stroke-width: 2.5;
}
</style>
