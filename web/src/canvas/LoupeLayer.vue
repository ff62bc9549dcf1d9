<script setup lang="ts">
import { computed, onUnmounted, ref, shallowRef, watch } from 'vue'

import { client, want } from '@/api/client'
import type { NearLine } from '@/api/types'
import { mm } from '@/composables/lengths'
import type { Seen } from '@/composables/sides'
import type { Viewport } from '@/composables/viewport'
import { useDrawing } from '@/stores/drawing'
import { words } from '@/words'

import { seen } from './board/scene'
import { INK } from './looks'
import { drawMeasure, drawNodes, type Eye } from './marks'
import { runsOf } from './picker'

/** A round glass that follows the pointer: the lines there at ten times, with nodes, and how far the nearest line is from
 * the next one. Without a pointer it is about the middle. laid: it lies below a place that is looked at already, and
 * shows it somewhat nearer. */
const props = defineProps<{ sides: Seen[]; split: number; pointer: [number, number] | null; viewport: Viewport; laid?: boolean }>()
const drawing = useDrawing()

const TIMES = props.laid ? 4 : 10
const ROUND = 168
/** The next line is asked for when the pointer has rested so long, in ms. */
const RESTED_MS = 90
/** Lines nearer than this lie in one place, for all that a machine can do. */
const ONE_MM = 0.005
const canvas = ref<HTMLCanvasElement | null>(null)
const near = shallowRef<NearLine | null>(null)

const at = computed<[number, number]>(() => props.pointer ?? [props.viewport.size.width / 2, props.viewport.size.height / 2])
const side = computed(() => props.sides[props.sides.length > 1 && at.value[0] > props.split * props.viewport.size.width ? 1 : 0])
const plane = computed<[number, number]>(() => {
  const { view } = props.viewport
  return [(at.value[0] - view.x) / view.scale, (at.value[1] - view.y) / view.scale]
})
/** Beside the pointer, where there is room. */
const style = computed(() => {
  const { width, height } = props.viewport.size
  const [x, y] = at.value
  if (props.laid) return { left: `${Math.max(x - 24 - ROUND, 8)}px`, top: `${Math.max(Math.min(y + 24, height - ROUND - 8), 8)}px` }
  const left = props.pointer ? (x + 24 + ROUND < width ? x + 24 : x - 24 - ROUND) : x - ROUND / 2
  const top = props.pointer ? (y - 24 - ROUND > 0 ? y - 24 - ROUND : Math.min(y + 24, height - ROUND)) : y - ROUND / 2
  return { left: `${left}px`, top: `${top}px` }
})

function draw() {
  const context = canvas.value?.getContext('2d')
  if (!context) return
  const ratio = window.devicePixelRatio || 1
  canvas.value!.width = canvas.value!.height = ROUND * ratio
  const scale = props.viewport.view.scale * TIMES
  const eyeAt = { scale, x: ROUND / 2 - plane.value[0] * scale, y: ROUND / 2 - plane.value[1] * scale }
  const eye: Eye = { ...eyeAt, box: seen({ ...eyeAt, width: ROUND, height: ROUND, ratio }) }
  context.setTransform(ratio, 0, 0, ratio, 0, 0)
  context.fillStyle = '#fffdf7'
  context.fillRect(0, 0, ROUND, ROUND)
  Object.assign(context, { strokeStyle: INK, lineWidth: 2.2, lineJoin: 'round', lineCap: 'round' })
  context.stroke(linesNear(eye))
  drawNodes(context, side.value?.drawn ?? [], eye, 100)
  const found = near.value
  if (found?.next_point) drawMeasure(context, found.point as [number, number], found.next_point as [number, number], eye, '')
}

/** Only the runs of lines that are in the glass, whatever else their pieces have. */
function linesNear({ scale, x, y, box }: Eye): Path2D {
  const path = new Path2D()
  for (const { shape } of side.value?.drawn ?? []) {
    if (shape.box[0] > box[2] || shape.box[2] < box[0] || shape.box[1] > box[3] || shape.box[3] < box[1]) continue
    const runs = runsOf(shape)
    for (let r = 0; r < runs.first.length; r++) {
      const b = 4 * r
      if (runs.box[b] > box[2] || runs.box[b + 2] < box[0] || runs.box[b + 1] > box[3] || runs.box[b + 3] < box[1]) continue
      const end = Math.min(runs.first[r + 1] ?? Infinity, shape.start[runs.outline[r] + 1] - 1)
      for (let i = runs.first[r]; i <= end; i++) {
        const [px, py] = [shape.points[2 * i] * scale + x, shape.points[2 * i + 1] * scale + y]
        if (i === runs.first[r]) path.moveTo(px, py)
        else path.lineTo(px, py)
      }
    }
  }
  return path
}

let timer = 0
let asked = 0
watch(
  [plane, () => drawing.shown],
  () => {
    near.value = null
    window.clearTimeout(timer)
    timer = window.setTimeout(async () => {
      const number = ++asked
      const [x, y] = plane.value
      const params = { path: drawing.at(drawing.shown) }
      const found = await want(client.POST('/api/jobs/{job}/documents/{document}/near', { params, body: { x, y } })).catch(() => null)
      // What lies outside of the glass is not what is looked at.
      const reach = ROUND / 2 / (props.viewport.view.scale * TIMES)
      const line = found?.line
      const within = line && line.distance_mm < reach && (!props.laid || (line.next_mm ?? Infinity) < reach)
      if (number === asked && within) near.value = line
    }, RESTED_MS)
  },
  { immediate: true },
)
watch([plane, side, near, canvas, () => props.viewport.view.scale], draw, { flush: 'post', immediate: true })
onUnmounted(() => window.clearTimeout(timer))
</script>

<template>
  <div class="loupe" :style="style" aria-hidden="true">
    <canvas ref="canvas" :style="{ width: `${ROUND}px`, height: `${ROUND}px` }" />
    <span v-if="near?.next_mm != null" class="said">{{
      near.next_mm < ONE_MM ? words.loupe.one : words.loupe.apart(mm(near.next_mm))
    }}</span>
  </div>
</template>

<style scoped>
.loupe {
  position: absolute;
  pointer-events: none;
}
canvas {
  display: block;
  border-radius: 50%;
  border: 3px solid #1b2a4e;
  box-shadow: 0 6px 22px rgb(27 42 78 / 0.28);
}
.said {
  position: absolute;
  left: 50%;
  bottom: 16px;
  transform: translateX(-50%);
  padding: 2px 10px;
  border-radius: 11px;
  background: #1b2a4e;
  color: #fffdf7;
  font-weight: 700;
  font-size: 12.5px;
  white-space: nowrap;
}
</style>
