<script setup lang="ts">
import { onMounted, onUnmounted, ref, watchEffect } from 'vue'

import type { Viewport } from '@/composables/viewport'
import { useDraft } from '@/stores/draft'
import { useDrawing } from '@/stores/drawing'

import { paint } from './board/paint'
import { draftScene, shapesOf } from './looks'

/** What a step that is set up would make, painted at once over the work. */
const props = defineProps<{ viewport: Viewport }>()
const draft = useDraft()
const drawing = useDrawing()
const canvas = ref<HTMLCanvasElement | null>(null)
/** The number of the draft that is painted, for whoever times it. */
const painted = ref(0)

function draw() {
  frame = 0
  const element = canvas.value
  const context = element?.getContext('2d')
  if (!element || !context) return
  const { view, size } = props.viewport
  const ratio = window.devicePixelRatio || 1
  const [width, height] = [Math.round(size.width * ratio), Math.round(size.height * ratio)]
  if (element.width !== width || element.height !== height) Object.assign(element, { width, height })
  const scene = draft.shown ? draftScene(draft.shown, shapesOf(drawing.drawn)) : { items: [], shapes: new Map() }
  paint(context, scene, { ...view, ...size, ratio })
  painted.value = draft.shown?.number ?? 0
}

let frame = 0
const stop = watchEffect(() => {
  // Whatever a picture depends on is read here, so that a change of it asks for the next one.
  void [draft.shown, drawing.drawn, { ...props.viewport.view }, { ...props.viewport.size }]
  if (!frame) frame = requestAnimationFrame(draw)
})
onMounted(draw)
onUnmounted(() => {
  stop()
  cancelAnimationFrame(frame)
})
</script>

<template><canvas ref="canvas" class="draft" aria-hidden="true" :data-number="painted" /></template>

<style scoped>
.draft {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
</style>
