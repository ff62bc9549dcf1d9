<script setup lang="ts">
import { computed, ref } from 'vue'

import { pathData } from '@/api/previews'
import type { Picture } from '@/api/types'
import type { Viewport } from '@/composables/viewport'
import { useDrawing } from '@/stores/drawing'
import { useTrace } from '@/stores/trace'
import { DRAWN, useTraceTool } from '@/stores/traceTool'

import PictureLayer from './PictureLayer.vue'
import TraceLayer from './TraceLayer.vue'
import { asTransform } from './plane'

/** The picture, or a trace that is held, on one side, the lines on the other; over both what is marked on them. */
const props = defineProps<{ pictures: Picture[]; job: string; viewport: Viewport; clips: [string?, string?]; pale: string[] }>()
const trace = useTrace()
const tools = useTraceTool()
const drawing = useDrawing()
const view = computed(() => props.viewport.view)
const matrix = computed(() => props.viewport.matrix.value)

const traced = computed(() => props.pictures.find((p) => p.id === trace.picture))
/** The picture lies under its lines, as these would have it; others as they are. */
const laid = computed(() =>
  props.pictures
    .filter((p) => p !== traced.value || !slanted.value)
    .map((p) => (p === traced.value && trace.shown?.matrix ? { ...p, matrix: trace.shown.matrix } : p)),
)
const slanted = computed(() => {
  const plane = trace.shown?.plane && tools.lies
  return plane ? asTransform(plane, view.value.scale, view.value.x, view.value.y) : ''
})

/** The pieces that lines are found inside only, as a ghost. */
const ghost = computed(() =>
  drawing.drawn
    .filter(({ piece }) => trace.options.within.includes(piece.id))
    .map(({ shape }) => pathData(shape.points, shape.start, () => false, Array(shape.start.length - 1).keys()))
    .join(''),
)
const over = computed(() => {
  const hit = tools.hovered
  const shown = trace.shown
  if (!hit || !shown || !tools.regions) return null
  const lines = shown.layers[shown.parts[hit.part][1]].lines
  return { d: pathData(shown.points, shown.start, () => lines, tools.regions.outlines(hit.part)), ...hit, lines }
})
const px = (mm: [number, number]) => [mm[0] * view.value.scale + view.value.x, mm[1] * view.value.scale + view.value.y]
const marks = computed(() => tools.marks.map((mark) => ({ ...mark, at: px(mark.mm) })))
const thin = computed(() =>
  [...(trace.measured?.strips ?? []), ...(trace.measured?.gaps ?? [])].map(([x1, y1, x2, y2]) => px([(x1 + x2) / 2, (y1 + y2) / 2])),
)
const ends = computed(() => (trace.options.ends.length === 2 ? trace.options.ends.map((at) => px(tools.mmOf(at))) : null))
const strokes = computed(() =>
  (['inside', 'beyond'] as const).flatMap((name) => trace.options[name].map((at) => ({ name, at: px(tools.mmOf(at)) }))),
)

/** The drag of a tool, in pixels of the window. */
const drag = ref<[number, number][]>([])
const following = computed(() => DRAWN.includes(tools.tool))
const place = (event: PointerEvent): [number, number] => {
  const box = (event.currentTarget as Element).getBoundingClientRect()
  return [event.clientX - box.left, event.clientY - box.top]
}
function down(event: PointerEvent) {
  if (event.button !== 0) return
  event.stopPropagation()
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
  drag.value = [place(event)]
}
function move(event: PointerEvent) {
  if (!drag.value.length) return
  event.stopPropagation()
  drag.value = [...drag.value, place(event)]
}
function up(event: PointerEvent) {
  if (!drag.value.length) return
  event.stopPropagation()
  const { x, y, scale } = view.value
  tools.drawn(drag.value.map(([px, py]) => [(px - x) / scale, (py - y) / scale]))
  drag.value = []
}
const stroke = computed(() => {
  const [first, last] = [drag.value[0], drag.value.at(-1)]
  if (!first || !last) return ''
  if (tools.tool === 'crop') return `M${first}H${last[0]}V${last[1]}H${first[0]}Z`
  if (tools.tool === 'ends') return `M${first}L${last}`
  return `M${drag.value.join('L')}`
})
</script>

<template>
  <div class="layer" :style="{ clipPath: clips[0] }">
    <svg v-if="trace.held" class="layer" aria-hidden="true">
      <g class="held" :transform="matrix"><TraceLayer :shown="trace.held.shown" /></g>
    </svg>
    <template v-else>
      <img
        v-if="slanted && traced"
        class="slanted"
        :src="`/api/jobs/${job}/pictures/${traced.sha256}`"
        alt=""
        :style="{ transform: slanted, width: `${traced.size_px[0]}px`, height: `${traced.size_px[1]}px` }"
      />
      <svg class="layer" aria-hidden="true">
        <g :transform="matrix"><PictureLayer :pictures="laid" :job="job" :pale="pale" /></g>
      </svg>
    </template>
  </div>
  <svg v-if="ghost" class="layer" aria-hidden="true">
    <g :transform="matrix"><path class="ghost" :d="ghost" /></g>
  </svg>
  <svg class="layer" :style="{ clipPath: clips[1] }" aria-hidden="true">
    <g :transform="matrix"><TraceLayer :shown="trace.shown" /></g>
  </svg>
  <svg class="layer" aria-hidden="true">
    <g v-if="over" :transform="matrix">
      <path class="over" :class="{ hollow: over.hollow, lines: over.lines }" :d="over.d" fill-rule="evenodd" />
    </g>
    <circle v-for="(at, k) in thin" :key="`thin-${k}`" class="thin" :cx="at[0]" :cy="at[1]" r="9" />
    <circle v-for="(one, k) in strokes" :key="`stroke-${k}`" :class="one.name" :cx="one.at[0]" :cy="one.at[1]" r="5" />
    <g v-for="mark in marks" :key="`${mark.name}-${mark.at}`" class="mark" :transform="`translate(${mark.at})`">
      <circle r="8" />
      <path :d="mark.name === 'dropped' ? 'M-3.5 -3.5L3.5 3.5M3.5 -3.5L-3.5 3.5' : 'M-4 0H4M0 -4V4'" />
    </g>
    <g v-if="ends" class="ends">
      <path :d="`M${ends[0]}L${ends[1]}`" />
      <circle v-for="(at, k) in ends" :key="k" :cx="at[0]" :cy="at[1]" r="4" />
    </g>
  </svg>
  <svg v-if="following" class="layer catch" @pointerdown="down" @pointermove="move" @pointerup="up" @pointercancel="drag = []">
    <path class="stroke" :class="tools.tool" :d="stroke" />
  </svg>
</template>

<style scoped>
.layer {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
.catch {
  pointer-events: all;
  cursor: crosshair;
}
.slanted {
  position: absolute;
  left: 0;
  top: 0;
  max-width: none;
  transform-origin: 0 0;
}
.held :deep(.found) {
  stroke-dasharray: 5 3;
}
.over {
  fill: var(--pick);
  fill-opacity: 0.22;
  stroke: var(--pick);
  stroke-width: 2px;
  vector-effect: non-scaling-stroke;
}
.over.lines {
  fill: none;
  stroke-width: 4px;
}
.over.hollow {
  fill-opacity: 0.06;
  stroke-dasharray: 4 3;
}
.ghost {
  fill: none;
  stroke: var(--pick);
  stroke-width: 1.5px;
  stroke-dasharray: 2 4;
  vector-effect: non-scaling-stroke;
}
.thin {
  fill: none;
  stroke: var(--flag);
  stroke-width: 2px;
}
.mark circle {
  fill: var(--print);
  stroke: var(--paper);
  stroke-width: 1.5px;
}
.mark path {
  stroke: var(--paper);
  stroke-width: 2px;
  stroke-linecap: round;
}
.inside,
.beyond {
  stroke: var(--paper);
}
.inside {
  fill: var(--print);
}
.beyond {
  fill: var(--flag);
}
.ends path,
.stroke {
  fill: none;
  stroke: var(--print);
  stroke-width: 2px;
}
.stroke.crop {
  fill: var(--print);
  fill-opacity: 0.08;
  stroke-dasharray: 6 4;
}
.stroke.inside,
.stroke.beyond {
  fill: none;
  stroke-width: 9px;
  stroke-linecap: round;
  stroke-linejoin: round;
  opacity: 0.7;
}
.stroke.beyond {
  stroke: var(--flag);
}
.ends circle {
  fill: var(--paper);
  stroke: var(--print);
  stroke-width: 2px;
}
</style>
