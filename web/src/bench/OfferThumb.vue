<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'

import type { Draft } from '@/api/drafts'
import { paint } from '@/canvas/board/paint'
import { boxOfScene, whole } from '@/canvas/board/scene'
import { offerScene } from '@/canvas/looks'
import { useDrawing } from '@/stores/drawing'

/** The pieces themselves, as they would be. */
const props = defineProps<{ draft: Draft; pieces: string[] }>()
const drawing = useDrawing()
const [WIDTH, HEIGHT, ROOM] = [76, 52, 16]
const canvas = ref<HTMLCanvasElement | null>(null)

function draw() {
  const element = canvas.value
  const context = element?.getContext('2d')
  if (!element || !context) return
  const scene = offerScene(drawing.drawn, props.draft, new Set(props.pieces))
  const box = boxOfScene(scene)
  const ratio = window.devicePixelRatio || 1
  Object.assign(element, { width: WIDTH * ratio, height: HEIGHT * ratio })
  if (!box) return
  const [across, down] = [box[2] - box[0], box[3] - box[1]]
  const longest = Math.max(across, down)
  const camera = whole(
    box,
    Math.min(((WIDTH - ROOM) * longest) / Math.max(across, 1e-6), ((HEIGHT - ROOM) * longest) / Math.max(down, 1e-6)),
  )
  const [dx, dy] = [(WIDTH - camera.width) / 2, (HEIGHT - camera.height) / 2]
  paint(context, scene, { ...camera, x: camera.x + dx, y: camera.y + dy, width: WIDTH, height: HEIGHT, ratio })
}
onMounted(draw)
watch(() => [props.draft, props.pieces], draw)
</script>

<template><canvas ref="canvas" class="thumb" aria-hidden="true" /></template>

<style scoped>
.thumb {
  flex: none;
  width: 76px;
  height: 52px;
  border: 1px solid var(--rule);
  border-radius: 2px;
  background: #fffdf7;
}
</style>
