<script setup lang="ts">
import { computed, onMounted, onUnmounted, ref, watch } from 'vue'

import { useGestures } from '@/composables/gestures'
import { useViewport } from '@/composables/viewport'
import { dataOf } from '@/api/unpack'
import { useJob } from '@/stores/job'
import { before, nearestOn, toolAt } from '@/stores/played'
import { useOwnPlaces } from '@/stores/ownPlaces'
import { useWorking } from '@/stores/working'
import { words } from '@/words'

import PlayBar from './PlayBar.vue'
import { paintNumbers, patternOf, strokeBySpeed, strokeRun, type Camera, type Colours } from './painting'

/** The way of the tools over the sheet: what is done by a time, what is still to come, and the ways between. */
const working = useWorking()
const own = useOwnPlaces()
const jobs = useJob()
const w = words.working
const host = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const viewport = useViewport(host)
const { view, size } = viewport

/** A run is picked from so far, in px. */
const NEAR_PX = 8
/** Places on lines are set from so far, in px. */
const REACH_PX = 24

const camera = (): Camera => ({ ...view, ...size, ratio: window.devicePixelRatio || 1 })
function colours(): Colours {
  const style = getComputedStyle(host.value!)
  const of = (name: string) => style.getPropertyValue(name).trim()
  return {
    ink: '#1b2a4e',
    pale: '#b9b3a2',
    paper: of('--paper') || '#fff',
    edge: of('--edge'),
    pick: of('--pick'),
    flag: of('--flag'),
    ground: of('--ground'),
  }
}
const page = computed(() => working.shown?.program.page_mm ?? [1, 1])
const showAll = () => viewport.fit([0, 0, page.value[0], page.value[1]], 48)
watch([() => page.value.join(), () => size.width > 0], () => size.width > 0 && showAll(), { immediate: true })

/** What does not change while it plays: the sheet with all lines pale; and what is done, which only grows. */
const still = document.createElement('canvas')
const past = document.createElement('canvas')
let stillFor = ''
let pastFor = ''
let pastRuns = 0

function begin(on: HTMLCanvasElement, at: Camera): CanvasRenderingContext2D {
  on.width = Math.round(at.width * at.ratio)
  on.height = Math.round(at.height * at.ratio)
  const pen = on.getContext('2d')!
  pen.scale(at.ratio, at.ratio)
  pen.lineJoin = pen.lineCap = 'round'
  return pen
}

function paintStill(at: Camera, paint: Colours) {
  const shown = working.shown!
  const pen = begin(still, at)
  pen.fillStyle = paint.paper
  pen.strokeStyle = paint.edge
  pen.beginPath()
  pen.rect(at.x, at.y, page.value[0] * at.scale, page.value[1] * at.scale)
  pen.fill()
  pen.stroke()
  pen.strokeStyle = paint.pale
  pen.lineWidth = 1.2
  for (let k = 0; k < shown.ends.length; k++) {
    pen.setLineDash(patternOf(shown, k))
    pen.globalAlpha = working.isLeft(k) ? 1 : 0.35
    strokeRun(pen, shown, k, at)
  }
}

/** Runs that are done are drawn once, as they are done. */
function paintPast(at: Camera, paint: Colours, until: number) {
  const shown = working.shown!
  let pen = past.getContext('2d')!
  if (until < pastRuns) {
    pen = begin(past, at)
    pastRuns = 0
  }
  pen.strokeStyle = paint.ink
  for (let k = pastRuns; k < until; k++) {
    if (!working.isLeft(k)) continue
    pen.lineWidth = 1.8
    pen.setLineDash(working.speed ? [] : patternOf(shown, k))
    if (working.speed) strokeBySpeed(pen, shown, k, at)
    else strokeRun(pen, shown, k, at)
  }
  pastRuns = until
}

function paintTravel(pen: CanvasRenderingContext2D, at: Camera, paint: Colours, until: number) {
  const shown = working.shown!
  pen.setLineDash([3, 4])
  pen.lineWidth = 1
  pen.strokeStyle = paint.pick
  pen.globalAlpha = 0.75
  pen.beginPath()
  for (let k = 0; k <= until; k++) {
    const from = before(shown, k)
    const i = shown.start[k]
    pen.moveTo(from[0] * at.scale + at.x, from[1] * at.scale + at.y)
    let to: [number, number] = [shown.points[2 * i], shown.points[2 * i + 1]]
    if (k === until && working.time < shown.begins[k]) to = toolAt(shown, working.run, working.time)
    pen.lineTo(to[0] * at.scale + at.x, to[1] * at.scale + at.y)
  }
  pen.stroke()
  pen.globalAlpha = 1
  pen.setLineDash([])
}

function paint() {
  const shown = working.shown
  const on = canvas.value
  if (!shown || !on || !size.width) return
  const at = camera()
  const key = [
    at.scale,
    at.x,
    at.y,
    at.width,
    at.height,
    at.ratio,
    working.from,
    working.done.join(),
    document.documentElement.className,
  ].join()
  const as = colours()
  if (stillFor !== key || stillOf !== shown) {
    paintStill(at, as)
    stillFor = key
  }
  const doneFor = `${key} ${working.speed}`
  if (pastFor !== doneFor || stillOf !== shown) {
    begin(past, at)
    pastRuns = 0
    pastFor = doneFor
  }
  stillOf = shown
  const over = working.time >= working.total - 1e-6
  const k = working.run
  paintPast(at, as, over ? shown.ends.length : k)
  const pen = begin(on, at)
  pen.save()
  pen.setTransform(1, 0, 0, 1, 0, 0)
  pen.drawImage(still, 0, 0)
  pen.drawImage(past, 0, 0)
  pen.restore()
  if (!over && working.time > shown.begins[k]) {
    pen.strokeStyle = as.ink
    pen.lineWidth = 1.8
    pen.setLineDash(patternOf(shown, k))
    strokeRun(pen, shown, k, at, working.time - shown.begins[k])
  }
  if (working.travel && shown.ends.length) paintTravel(pen, at, as, over ? shown.ends.length - 1 : k)
  if (working.picked >= 0) {
    pen.setLineDash([])
    pen.strokeStyle = as.pick
    pen.lineWidth = 3
    const row = working.stretches[working.picked]
    for (let n = row?.first ?? 0; row && n <= row.last; n++) strokeRun(pen, shown, n, at)
  }
  if (working.numbers) paintNumbers(pen, shown, at, as, working.stretches, working.row, working.isLeft)
  if (!over && shown.ends.length) {
    const [x, y] = toolAt(shown, working.run, working.time).map((v, n) => v * at.scale + (n ? at.y : at.x))
    pen.setLineDash([])
    pen.lineWidth = 2
    pen.strokeStyle = as.flag
    pen.beginPath()
    pen.arc(x, y, 7, 0, 2 * Math.PI)
    pen.moveTo(x - 12, y)
    pen.lineTo(x + 12, y)
    pen.moveTo(x, y - 12)
    pen.lineTo(x, y + 12)
    pen.stroke()
  }
}
let stillOf: unknown = null

let frame = 0
let last = 0
const ask = () => {
  frame ||= requestAnimationFrame((now) => {
    frame = 0
    if (working.playing) {
      const by = last ? ((now - last) / 1000) * working.pace : 0
      working.seek(working.time + by)
      if (working.time >= working.total) working.playing = false
    }
    last = working.playing ? now : 0
    paint()
    if (working.playing) ask()
  })
}
watch(
  () => [
    working.shown,
    working.time,
    working.playing,
    working.travel,
    working.numbers,
    working.speed,
    working.picked,
    working.from,
    working.done,
    { ...view },
    { ...size },
  ],
  ask,
  { flush: 'post' },
)
onMounted(ask)
onUnmounted(() => {
  cancelAnimationFrame(frame)
  working.playing = false
})

/** The row whose line is nearest to a place in the window. */
function rowAt(px: number, py: number): number {
  const shown = working.shown
  if (!shown) return -1
  const all = shown.ends.keys()
  const found = nearestOn(shown, all, (px - view.x) / view.scale, (py - view.y) / view.scale, NEAR_PX / view.scale)
  return working.stretches.findIndex((one) => found && one.first <= found.run && found.run <= one.last)
}
/** Where a line on which places are set comes near to a place in the window. */
function pointAt(px: number, py: number) {
  if (own.piece >= 0) own.pointAt((px - view.x) / view.scale, (py - view.y) / view.scale, REACH_PX / view.scale)
}
function click(px: number, py: number) {
  if (own.piece < 0) return void (working.picked = rowAt(px, py))
  pointAt(px, py)
  if (!jobs.busy) void own.set(own.place)
}
const { handlers, dragging } = useGestures(host, viewport, { point: pointAt, click, band: () => {}, leave: () => (own.place = null) })
const wrong = computed(() => {
  const proof = working.shown?.program.proof
  return proof ? [proof.missing_lines, proof.extra_lines].map(dataOf) : []
})
const flags = computed(() => working.shown?.program.findings.filter((one) => one.place) ?? [])
const matrix = viewport.matrix
defineExpose({ percent: viewport.percent, zoom: viewport.zoom, showAll })
</script>

<template>
  <div class="board">
    <div
      ref="host"
      class="host"
      :class="{ dragging, pointing: own.place }"
      role="img"
      v-bind="handlers"
      :aria-label="w.board(working.stretches.length)"
    >
      <canvas ref="canvas" :style="{ width: `${size.width}px`, height: `${size.height}px` }" />
      <svg v-if="wrong.some(Boolean) || flags.length || own.piece >= 0" class="over" aria-hidden="true">
        <g :transform="matrix">
          <path v-for="(lines, n) in wrong" :key="n" :d="lines" class="wrong" />
          <circle v-for="(one, n) in flags" :key="`f${n}`" :cx="one.place![0]" :cy="one.place![1]" :r="9 / view.scale" class="flag">
            <title>{{ one.message }}</title>
          </circle>
          <circle v-for="(one, n) in own.held" :key="`t${n}`" class="tab" :cx="one[0]" :cy="one[1]" :r="5 / view.scale" />
          <circle v-if="own.place" class="start" :cx="own.place[0]" :cy="own.place[1]" :r="7 / view.scale" />
        </g>
      </svg>
    </div>
    <PlayBar v-if="working.shown?.ends.length" />
  </div>
</template>

<style scoped>
.board {
  position: absolute;
  inset: 0;
  display: flex;
  flex-direction: column;
}
.host {
  position: relative;
  flex: 1;
  min-height: 0;
  overflow: hidden;
  touch-action: none;
}
.host.dragging {
  cursor: grabbing;
}
.host.pointing {
  cursor: crosshair;
}
canvas,
.over {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
.over {
  pointer-events: none;
}
.wrong {
  fill: none;
  stroke: var(--flag);
  stroke-width: 4px;
  vector-effect: non-scaling-stroke;
}
.tab {
  fill: var(--pick);
}
.start {
  fill: var(--paper);
  stroke: var(--pick);
  stroke-width: 4px;
  vector-effect: non-scaling-stroke;
}
.flag {
  fill: none;
  stroke: var(--flag);
  stroke-width: 2.5px;
  vector-effect: non-scaling-stroke;
}
</style>
