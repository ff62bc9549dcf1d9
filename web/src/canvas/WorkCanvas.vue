<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import type { Drawing, Finding, MendPreview } from '@/api/types'
import { useGestures, type Held } from '@/composables/gestures'
import { useHandles } from '@/composables/handles'
import { useTarget } from '@/composables/target'
import { usePictureColour } from '@/composables/pictureColour'
import type { Seen } from '@/composables/sides'
import { useViewport, type Box } from '@/composables/viewport'
import { NODES, useDraft } from '@/stores/draft'
import { usePicks, type Way } from '@/stores/picks'
import { useRuler } from '@/stores/ruler'
import { useTrace } from '@/stores/trace'
import { COLOUR, useTraceTool } from '@/stores/traceTool'
import { words } from '@/words'

import DividerLayer from './DividerLayer.vue'
import DimensionsLayer from './DimensionsLayer.vue'
import DraftHandles from './DraftHandles.vue'
import DraftLayer from './DraftLayer.vue'
import FindingsLayer from './FindingsLayer.vue'
import HaloLayer from './HaloLayer.vue'
import LetterHandles from './LetterHandles.vue'
import LoupeLayer from './LoupeLayer.vue'
import MarksLayer from './MarksLayer.vue'
import { Picker } from './picker'
import NodesLayer from './NodesLayer.vue'
import PictureLayer from './PictureLayer.vue'
import PlacesLayer from './PlacesLayer.vue'
import SheetLayer from './SheetLayer.vue'
import SpotsLayer from './SpotsLayer.vue'
import TargetLayer from './TargetLayer.vue'
import TraceStage from './TraceStage.vue'
import WorkBoard from './WorkBoard.vue'

const props = defineProps<{
  drawing: Drawing
  /** What is looked at: one view, or two under a divider that stands at a share of the width. */
  sides: Seen[]
  split: number
  findings: Finding[]
  finding: string | null
  preview: MendPreview | null
  job: string
  /** Whether a trace is set up; the first side is then the picture. */
  tracing: boolean
  pale: string[]
  reach: [number, number] | null
  perNodeMm: number
  loupe: boolean
  measuring: boolean
}>()
const emit = defineEmits<{ finding: [key: string]; split: [share: number] }>()

const work = ref<HTMLElement | null>(null)
const viewport = useViewport(work)
const { view, size, matrix } = viewport
const picks = usePicks()
const ruler = useRuler()
const trace = useTrace()
const draft = useDraft()
const tools = useTraceTool()
const target = useTarget()
/** Where the pointer is, in pixels; the loupe is about it. */
const pointer = ref<[number, number] | null>(null)

/** Everything: the sheet, and what lies beside it; of pieces drawn apart, these; of a picture that is traced, where its
 *  lines would lie. */
const whole = computed<Box>(() => {
  const laid = props.tracing && tools.box
  if (laid) return laid
  const spread = props.sides.find((side) => side.box)?.box
  if (spread) return spread
  const [width, height] = props.drawing.page ?? props.drawing.frame
  const [left, top, right, bottom] = props.drawing.box ?? [0, 0, width, height]
  const [x, y, x2, y2] = target.box.value ?? [0, 0, 0, 0]
  return [Math.min(0, left, x), Math.min(0, top, y), Math.max(width, right, x2), Math.max(height, bottom, y2)]
})
const showAll = () => viewport.fit(whole.value)
const shape = computed(() => whole.value.join())
watch([shape, () => size.width > 0], () => size.width > 0 && showAll(), { immediate: true })

/** Picking a finding flies to its place, near enough to see it, with its surroundings. */
watch(
  () => props.finding,
  (key) => {
    const finding = props.findings.find((f) => f.key === key)
    if (!finding) return
    const [left, top, right, bottom] = finding.extent ?? [...(finding.place ?? [0, 0]), ...(finding.place ?? [0, 0])]
    if (finding.extent || finding.place) viewport.fly([left - 4, top - 4, right + 4, bottom + 4])
  },
)

/** Where the picked finding is, in pixels, while it is in sight: the loupe lies beside it. */
const looked = computed<[number, number] | null>(() => {
  const place = props.findings.find((f) => f.key === props.finding)?.place
  if (!place) return null
  const at: [number, number] = [place[0] * view.scale + view.x, place[1] * view.scale + view.y]
  return at[0] > 0 && at[1] > 0 && at[0] < size.width && at[1] < size.height ? at : null
})

const two = computed(() => props.sides.length > 1 || props.tracing)
const spread = computed(() => props.sides.some((side) => side.box))
const pickers = computed(() => props.sides.map((side) => new Picker(side.targets)))
const pickerAt = (x: number) => pickers.value[two.value && x > props.split * size.width ? pickers.value.length - 1 : 0]
/** How far from a line the pointer still means it, in pixels: more for fingers. */
const REACH_PX = 7
const REACH_TOUCH_PX = 18
const toPlane = (x: number, y: number): [number, number] => [(x - view.x) / view.scale, (y - view.y) / view.scale]
const reachOf = (held: Held) => (held.touch ? REACH_TOUCH_PX : REACH_PX) / view.scale
const wayOf = (held: Held): Way => (held.away ? 'away' : held.add ? 'add' : 'only')

/** A place of the ruler: at the nearest node, else on the nearest line, else where the pointer is. */
function snapped(x: number, y: number, held: Held) {
  const at = toPlane(x, y)
  const reach = reachOf(held)
  const node = pickerAt(x).node(...at, reach)
  if (node) return { at: [node.x, node.y] as [number, number], onLine: true }
  const line = pickerAt(x).line(...at, reach)
  return line ? { at: [line.x, line.y] as [number, number], onLine: true } : { at, onLine: false }
}

const colours = usePictureColour()
const coloursReady = colours.ready
/** The picture that is traced is at hand when its colours are pointed at. */
const aimedAt = computed(() =>
  props.tracing && tools.tool === 'colour' ? props.drawing.pictures.find((p) => p.id === trace.picture) : null,
)
watch(aimedAt, (of) => {
  if (!of) return
  const shown = colours.show(`/api/jobs/${props.job}/pictures/${of.sha256}`, of.size_px[0])
  shown.catch(() => (trace.problem = words.trace.noPicture))
})
function point(x: number, y: number, held: Held) {
  pointer.value = [x, y]
  if (props.tracing) return tools.point(...toPlane(x, y), reachOf(held))
  if (props.measuring) return ruler.move(snapped(x, y, held))
  const [hit] = pickerAt(x).at(...toPlane(x, y), reachOf(held))
  picks.hovered = hit && !picks.locked(hit.target.drawn) ? picks.pickOf(hit, nodeAt(x, y, held)) : null
}
const nodeAt = (x: number, y: number, held: Held) =>
  picks.level === 'node' ? (pickerAt(x).node(...toPlane(x, y), reachOf(held))?.node ?? null) : null

function click(x: number, y: number, held: Held) {
  work.value?.focus({ preventScroll: true })
  if (props.tracing) return tools.press(...toPlane(x, y), reachOf(held), colours.at)
  if (props.measuring) return ruler.put(snapped(x, y, held))
  // Held with Shift a place stands where the pointer is; else at what is near.
  if (draft.setting) return draft.put(held.add ? toPlane(x, y) : snapped(x, y, held).at, toPlane(x, y))
  const hits = pickerAt(x)
    .at(...toPlane(x, y), reachOf(held))
    .filter((hit) => !picks.locked(hit.target.drawn))
  picks.click(hits, nodeAt(x, y, held), [x, y], wayOf(held))
}
function taken(box: Box, held: Held) {
  if (props.tracing) return
  const [left, top] = toPlane(box[0], box[1])
  const [right, bottom] = toPlane(box[2], box[3])
  const inside = pickerAt(box[0]).within([left, top, right, bottom])
  picks.band(
    inside.filter((target) => !picks.locked(target.drawn)),
    wayOf(held),
  )
}
const { band, dragging, handlers } = useGestures(work, viewport, {
  point,
  click,
  band: taken,
  leave: () => {
    pointer.value = null
    picks.hovered = tools.hovered = null
  },
})
const handles = useHandles(computed(() => props.sides[0]?.lines && !spread.value))

const BY: Record<string, [number, number]> = { ArrowLeft: [60, 0], ArrowRight: [-60, 0], ArrowUp: [0, 60], ArrowDown: [0, -60] }
function key(event: KeyboardEvent) {
  const step = BY[event.key]
  if (!step || event.target !== work.value) return
  event.preventDefault()
  viewport.pan(...step)
}
/** A colour that is dragged onto a piece while a picture is traced. */
const carries = (event: DragEvent) => props.tracing && event.dataTransfer?.types.includes(COLOUR)
function drop(event: DragEvent) {
  if (!carries(event)) return
  const box = work.value!.getBoundingClientRect()
  tools.dropped(event.dataTransfer!.getData(COLOUR), ...toPlane(event.clientX - box.left, event.clientY - box.top), REACH_PX / view.scale)
}
const clip = (number: number) => {
  if (!two.value) return undefined
  const x = `${props.split * size.width}px`
  return number ? `inset(0 0 0 ${x})` : `inset(0 calc(100% - ${x}) 0 0)`
}
const names = computed<[string, string]>(() =>
  props.tracing
    ? [trace.held ? words.work.held : words.work.picture, words.work.lines]
    : [props.sides[0]?.name ?? '', props.sides[1]?.name ?? ''],
)
defineExpose({ showAll, fly: viewport.fly, zoom: viewport.zoom, trueSize: viewport.trueSize, percent: viewport.percent })
</script>

<template>
  <div
    ref="work"
    class="work"
    :class="{ dragging, measuring, pointing: picks.hovered || tools.hovered, aiming: (aimedAt && coloursReady) || draft.setting }"
    tabindex="0"
    role="application"
    :aria-label="words.work.label"
    v-bind="handlers"
    @keydown="key"
    @dragover="carries($event) && $event.preventDefault()"
    @drop="drop"
  >
    <svg v-if="!spread" class="layer" aria-hidden="true">
      <g :transform="matrix">
        <SheetLayer
          :width="(drawing.page ?? drawing.frame)[0]"
          :height="(drawing.page ?? drawing.frame)[1]"
          :scale="view.scale"
          :reach="reach"
        />
      </g>
    </svg>
    <svg v-if="!spread && !tracing" class="layer" aria-hidden="true"><TargetLayer :viewport="viewport" /></svg>
    <TraceStage v-if="tracing" :pictures="drawing.pictures" :job="job" :viewport="viewport" :clips="[clip(0), clip(1)]" :pale="pale" />
    <div v-for="(side, number) in tracing ? [] : sides" :key="number" class="layer" :style="{ clipPath: clip(number) }">
      <svg v-if="side.pictures.length" class="layer" aria-hidden="true">
        <g :transform="matrix"><PictureLayer :pictures="side.pictures" :job="job" :pale="side.pale" /></g>
      </svg>
      <WorkBoard :scene="side.scene" :viewport="viewport" />
      <svg v-if="side.labels.length" class="layer" aria-hidden="true">
        <text
          v-for="label in side.labels"
          :key="label.text"
          class="name"
          :x="label.x * view.scale + view.x"
          :y="label.y * view.scale + view.y"
        >
          {{ label.text }}
        </text>
      </svg>
    </div>
    <svg v-if="preview" class="layer" aria-hidden="true">
      <g :transform="matrix"><HaloLayer :lines="preview.goes" /></g>
    </svg>
    <DraftLayer v-if="draft.operation && !tracing" :viewport="viewport" />
    <MarksLayer
      v-if="!tracing"
      :sides="sides"
      :split="split"
      :viewport="viewport"
      :per-node-mm="perNodeMm"
      :making="drawing.making"
      :band="band"
      :handles="handles"
    />
    <svg class="layer over">
      <DividerLayer v-if="two" :share="split" :width="size.width" :height="size.height" :names="names" @move="emit('split', $event)" />
      <DimensionsLayer v-if="!tracing && !spread" :viewport="viewport" />
      <LetterHandles v-if="draft.operation?.id === 'words' && !tracing" :viewport="viewport" />
      <SpotsLayer v-if="draft.operation && !tracing" :viewport="viewport" />
      <DraftHandles v-if="draft.operation && !tracing" :viewport="viewport" />
      <PlacesLayer v-if="draft.operation && !tracing" :viewport="viewport" />
      <FindingsLayer :findings="findings" :picked="finding" :viewport="viewport" @pick="emit('finding', $event)" />
    </svg>
    <NodesLayer v-if="draft.operation?.id === NODES && !tracing" :viewport="viewport" />
    <LoupeLayer v-if="loupe && !tracing" :sides="sides" :split="split" :pointer="pointer" :viewport="viewport" />
    <LoupeLayer v-else-if="looked" laid :sides="sides" :split="split" :pointer="looked" :viewport="viewport" />
  </div>
</template>

<style scoped>
.work {
  position: relative;
  width: 100%;
  height: 100%;
  overflow: hidden;
  cursor: grab;
  touch-action: none;
  user-select: none;
}
.pointing {
  cursor: pointer;
}
.measuring,
.aiming {
  cursor: crosshair;
}
.dragging {
  cursor: grabbing;
}
.work:focus-visible {
  outline-offset: -3px;
}
.layer {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
.over :deep(.handle),
.over :deep(.mark) {
  pointer-events: all;
}
.name {
  fill: var(--ink);
  font: 640 15px var(--heading);
}
</style>
