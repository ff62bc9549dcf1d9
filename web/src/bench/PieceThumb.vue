<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'

import { paint } from '@/canvas/board/paint'
import { whole } from '@/canvas/board/scene'
import { asArt } from '@/canvas/looks'
import type { Drawn } from '@/stores/drawing'

/** A piece as a small picture. */
const props = defineProps<{ drawn: Drawn }>()
const SIDE = 30
const canvas = ref<HTMLCanvasElement | null>(null)

function draw() {
  const element = canvas.value
  const context = element?.getContext('2d')
  if (!element || !context) return
  const { piece, shape } = props.drawn
  const camera = whole(shape.box, SIDE - 16)
  const ratio = window.devicePixelRatio || 1
  element.width = element.height = SIDE * ratio
  const [dx, dy] = [(SIDE - camera.width) / 2, (SIDE - camera.height) / 2]
  const item = { ...asArt(props.drawn), ...(piece.fill ? {} : { width: 1, screen: true, dashes: [] }) }
  paint(
    context,
    { items: [item], shapes: new Map([[piece.path, shape]]) },
    { ...camera, x: camera.x + dx, y: camera.y + dy, width: SIDE, height: SIDE, ratio },
  )
}
onMounted(draw)
watch(() => props.drawn, draw)
</script>

<template><canvas ref="canvas" class="thumb" aria-hidden="true" /></template>

<style scoped>
.thumb {
  width: 30px;
  height: 30px;
  border-radius: 4px;
  background: var(--paper);
}
</style>
