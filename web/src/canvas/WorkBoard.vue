<script setup lang="ts">
import { onMounted, onUnmounted, ref, watch } from 'vue'

import type { Viewport } from '@/composables/viewport'

import { Board } from './board/board'
import type { Scene } from './board/scene'

/** A scene in the window, sharp as soon as it can be. */
const props = defineProps<{ scene: Scene; viewport: Viewport }>()
const host = ref<HTMLElement | null>(null)
let board: Board | null = null

const camera = () => ({ ...props.viewport.view, ...props.viewport.size, ratio: window.devicePixelRatio || 1 })
onMounted(() => {
  board = new Board(host.value!)
  board.show(props.scene)
  board.look(camera())
})
watch(
  () => props.scene,
  (scene) => board?.show(scene),
)
watch(camera, (now) => board?.look(now))
onUnmounted(() => board?.destroy())
</script>

<template><div ref="host" class="board" /></template>

<style scoped>
.board {
  position: absolute;
  inset: 0;
  overflow: hidden;
  pointer-events: none;
}
</style>
