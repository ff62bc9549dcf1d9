<script setup lang="ts">
import { computed, ref, useId, watch } from 'vue'

import type { Drawing, Finding, MendPreview, Picture, Proof } from '@/api/types'
import { useViewport, type Box } from '@/composables/viewport'
import type { Look } from '@/stores/bench'
import type { Drawn } from '@/stores/drawing'

import ArtLayer from './ArtLayer.vue'
import DividerLayer from './DividerLayer.vue'
import FindingsLayer from './FindingsLayer.vue'
import HaloLayer from './HaloLayer.vue'
import LinesLayer from './LinesLayer.vue'
import NodesLayer from './NodesLayer.vue'
import PictureLayer from './PictureLayer.vue'
import ProofLayer from './ProofLayer.vue'
import SheetLayer from './SheetLayer.vue'
import TraceLayer from './TraceLayer.vue'

const props = defineProps<{
  drawing: Drawing
  pieces: Drawn[]
  look: Look
  findings: Finding[]
  picked: string | null
  preview: MendPreview | null
  proof: Proof | null
  job: string
  /** The outlines that a trace would give, where one is set up, and where the divider stands. */
  tracing: { d: string; number: number; split: number } | null
  reach: [number, number] | null
  /** Pictures that are still shown as such, and those of them that are shown on a dark ground. */
  pictures: Picture[]
  pale: string[]
  lineMm: number
  nodes: number
}>()
const emit = defineEmits<{ pick: [key: string]; split: [share: number] }>()

const cut = useId()
const svg = ref<SVGSVGElement | null>(null)
const viewport = useViewport(svg)
const { view, size, matrix } = viewport

/** Everything: the sheet, and what lies beside it. */
const whole = computed<Box>(() => {
  const [width, height] = props.drawing.page ?? props.drawing.frame
  const [left, top, right, bottom] = props.drawing.box ?? [0, 0, width, height]
  return [Math.min(0, left), Math.min(0, top), Math.max(width, right), Math.max(height, bottom)]
})
const showAll = () => viewport.fit(whole.value)

const shape = computed(() => whole.value.join())
watch([shape, () => size.width > 0], () => size.width > 0 && showAll(), { immediate: true })

/** Picking a finding flies to its place, near enough to see it, with its surroundings. */
watch(
  () => props.picked,
  (key) => {
    const finding = props.findings.find((f) => f.key === key)
    if (!finding) return
    const [left, top, right, bottom] = finding.extent ?? [...(finding.place ?? [0, 0]), ...(finding.place ?? [0, 0])]
    if (finding.extent || finding.place) viewport.fly([left - 4, top - 4, right + 4, bottom + 4])
  },
)

let dragged: { id: number; x: number; y: number } | null = null
function down(event: PointerEvent) {
  if (event.button > 1) return
  dragged = { id: event.pointerId, x: event.clientX, y: event.clientY }
  svg.value!.setPointerCapture(event.pointerId)
}
function move(event: PointerEvent) {
  if (dragged?.id !== event.pointerId) return
  viewport.pan(event.clientX - dragged.x, event.clientY - dragged.y)
  dragged = { id: event.pointerId, x: event.clientX, y: event.clientY }
}
function wheel(event: WheelEvent) {
  const box = svg.value!.getBoundingClientRect()
  const lines = event.deltaMode === 1 ? 33 : 1
  viewport.zoomAt(event.clientX - box.left, event.clientY - box.top, Math.exp(-event.deltaY * lines * 0.0016))
}
function key(event: KeyboardEvent) {
  const by: Record<string, [number, number]> = {
    ArrowLeft: [60, 0],
    ArrowRight: [-60, 0],
    ArrowUp: [0, 60],
    ArrowDown: [0, -60],
  }
  const step = by[event.key]
  if (!step) return
  event.preventDefault()
  viewport.pan(...step)
}
defineExpose({ showAll, zoom: viewport.zoom, percent: viewport.percent })
</script>

<template>
  <svg
    ref="svg"
    class="work"
    tabindex="0"
    role="application"
    aria-label="The work. Arrow keys move it, plus and minus zoom, zero shows everything."
    @pointerdown="down"
    @pointermove="move"
    @pointerup="dragged = null"
    @pointercancel="dragged = null"
    @wheel.prevent="wheel"
    @keydown="key"
  >
    <defs v-if="tracing">
      <clipPath :id="`${cut}-left`" clipPathUnits="userSpaceOnUse">
        <rect :x="-view.x / view.scale" :y="-view.y / view.scale" :width="(tracing.split * size.width) / view.scale" :height="size.height / view.scale" />
      </clipPath>
      <clipPath :id="`${cut}-right`" clipPathUnits="userSpaceOnUse">
        <rect :x="(tracing.split * size.width - view.x) / view.scale" :y="-view.y / view.scale" :width="((1 - tracing.split) * size.width) / view.scale" :height="size.height / view.scale" />
      </clipPath>
    </defs>
    <g :transform="matrix">
      <SheetLayer
        :width="(drawing.page ?? drawing.frame)[0]"
        :height="(drawing.page ?? drawing.frame)[1]"
        :scale="view.scale"
        :reach="reach"
      />
      <g v-if="tracing" :clip-path="`url(#${cut}-left)`">
        <PictureLayer :pictures="drawing.pictures" :job="job" :pale="pale" />
      </g>
      <g v-if="tracing" :clip-path="`url(#${cut}-right)`"><TraceLayer :d="tracing.d" :number="tracing.number" /></g>
      <PictureLayer v-else-if="!pieces.length" :pictures="pictures" :job="job" :pale="pale" />
      <ProofLayer v-else-if="proof" :pieces="pieces" :proof="proof" />
      <template v-else>
        <PictureLayer v-if="look === 'art'" :pictures="pictures" :job="job" :pale="pale" />
        <HaloLayer v-if="preview" :lines="preview.goes" />
        <ArtLayer v-if="look === 'art'" :pieces="pieces" />
        <LinesLayer v-else :pieces="pieces" />
      </template>
    </g>
    <NodesLayer
      v-if="look === 'lines' && !proof && !tracing"
      :pieces="pieces"
      :viewport="viewport"
      :line-mm="lineMm"
      :nodes="nodes"
    />
    <DividerLayer
      v-if="tracing"
      :share="tracing.split"
      :width="size.width"
      :height="size.height"
      :names="['picture', 'lines']"
      @move="emit('split', $event)"
    />
    <FindingsLayer :findings="findings" :picked="picked" :viewport="viewport" @pick="emit('pick', $event)" />
  </svg>
</template>

<style scoped>
.work {
  display: block;
  width: 100%;
  height: 100%;
  cursor: grab;
  touch-action: none;
  user-select: none;
}
.work:active {
  cursor: grabbing;
}
.work:focus-visible {
  outline-offset: -3px;
}
</style>
