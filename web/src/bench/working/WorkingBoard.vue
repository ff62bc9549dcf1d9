<script setup lang="ts">
import { computed, onMounted, onUnmounted, ref, watch } from 'vue'

import { useGestures } from '@/composables/gestures'
import { useViewport } from '@/composables/viewport'
import { dataOf } from '@/api/unpack'
import { useJob } from '@/stores/job'
import { nearestOn } from '@/stores/played'
import { useOwnPlaces } from '@/stores/ownPlaces'
import { useWorking } from '@/stores/working'
import { words } from '@/words'

import PlayBar from './PlayBar.vue'
import { useWayPainting } from './wayPainting'

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

const page = computed(() => working.shown?.program.page_mm ?? [1, 1])
const showAll = () => viewport.fit([0, 0, page.value[0], page.value[1]], 48)
watch([() => page.value.join(), () => size.width > 0], () => size.width > 0 && showAll(), { immediate: true })

const paint = useWayPainting(host, canvas, viewport, page)

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
