<script setup lang="ts">
import { computed, onMounted, onUnmounted, ref, watchEffect } from 'vue'

import type { Viewport } from '@/composables/viewport'
import type { Seen } from '@/composables/sides'
import { usePicks, type Pick } from '@/stores/picks'
import { useRuler } from '@/stores/ruler'
import { mm } from '@/composables/lengths'

import { seen, type Box } from './board/scene'
import { drawBand, drawHandles, drawMeasure, drawNodes, drawPart, drawStarts, drawTargets, type Eye } from './marks'
import type { Target } from './picker'

/** What hands are at: nodes, what is picked and pointed at, the ruler and the band, on a canvas of its own. */
const props = defineProps<{
  sides: Seen[]
  split: number
  viewport: Viewport
  perNodeMm: number
  making: string[]
  band: Box | null
  handles: Float32Array | null
}>()
const picks = usePicks()
const ruler = useRuler()
const canvas = ref<HTMLCanvasElement | null>(null)

/** As which one the first outline of each piece is made. */
const order = computed(() => {
  const first = new Map<string, number>()
  let number = 0
  const drawn = props.sides[0]?.drawn ?? []
  for (const layer of props.making) {
    for (const one of drawn) {
      if (one.layer.id !== layer) continue
      first.set(one.piece.id, number)
      number += one.shape.closed.length
    }
  }
  return first
})

/** Targets by their pieces, for each side. */
const byPiece = computed(() =>
  props.sides.map((side) => {
    const found = new Map<string, Target[]>()
    for (const target of side.targets) {
      const own = found.get(target.drawn.piece.id)
      if (own) own.push(target)
      else found.set(target.drawn.piece.id, [target])
    }
    return found
  }),
)

/** Starts and numbers come with so much room to each node, in pixels. */
const ROOMY_PX = 40

function drawSide(context: CanvasRenderingContext2D, side: Seen, number: number, eye: Eye, ratio: number) {
  if (side.lines) {
    const shown = drawNodes(context, side.drawn, eye, props.perNodeMm)
    if (shown && props.perNodeMm * eye.scale > ROOMY_PX) drawStarts(context, side.drawn, eye, order.value)
  }
  const targets = byPiece.value[number]
  const of = (some: Pick[]) => some.flatMap((pick) => targets.get(pick.piece) ?? [])
  const parts = picks.picks.filter((pick) => pick.outline !== undefined || pick.node !== undefined)
  drawTargets(context, of(picks.picks.filter((pick) => pick.outline === undefined && pick.node === undefined)), eye, ratio, false)
  const hovered = picks.hovered
  if (hovered && hovered.outline === undefined && !picks.pickedPieces.has(hovered.piece))
    drawTargets(context, of([hovered]), eye, ratio, true)
  for (const pick of hovered && hovered.outline !== undefined ? [...parts, hovered] : parts) {
    for (const target of of([pick])) drawPart(context, target, pick, eye)
  }
  if (picks.touched && targets.size) for (const target of of([picks.touched])) drawPart(context, target, picks.touched, eye)
  if (props.handles && side.lines) drawHandles(context, props.handles, eye)
  const reading = picks.reading
  if (reading?.thin && side.lines) {
    drawMeasure(context, reading.thin[0] as [number, number], reading.thin[1] as [number, number], eye, mm(reading.thin_mm!))
  }
}

function draw() {
  frame = 0
  const element = canvas.value
  const context = element?.getContext('2d')
  if (!element || !context) return
  const { view, size } = props.viewport
  const ratio = window.devicePixelRatio || 1
  const [width, height] = [Math.round(size.width * ratio), Math.round(size.height * ratio)]
  if (element.width !== width || element.height !== height) Object.assign(element, { width, height })
  context.setTransform(ratio, 0, 0, ratio, 0, 0)
  context.clearRect(0, 0, size.width, size.height)
  const eye: Eye = { ...view, box: seen({ ...view, ...size, ratio }) }
  props.sides.forEach((side, number) => {
    context.save()
    if (props.sides.length > 1) {
      const x = props.split * size.width
      context.beginPath()
      if (number) context.rect(x, 0, size.width - x, size.height)
      else context.rect(0, 0, x, size.height)
      context.clip()
    }
    drawSide(context, side, number, eye, ratio)
    context.restore()
  })
  if (ruler.from) drawMeasure(context, ruler.from.at, ruler.to?.at ?? ruler.from.at, eye, ruler.text)
  if (props.band) drawBand(context, props.band)
}

let frame = 0
const stop = watchEffect(() => {
  // Whatever a picture depends on is read here, so that a change of it asks for the next one.
  void [
    props.sides,
    props.split,
    { ...props.viewport.view },
    { ...props.viewport.size },
    props.band,
    props.handles,
    order.value,
    byPiece.value,
  ]
  void [picks.picks, picks.hovered, picks.touched, picks.reading, ruler.from, ruler.to, ruler.text]
  if (!frame) frame = requestAnimationFrame(draw)
})
onMounted(draw)
onUnmounted(() => {
  stop()
  cancelAnimationFrame(frame)
})
</script>

<template><canvas ref="canvas" class="marks" aria-hidden="true" /></template>

<style scoped>
.marks {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
</style>
