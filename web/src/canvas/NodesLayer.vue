<script setup lang="ts">
import { onMounted, onUnmounted, ref, watchEffect } from 'vue'

import type { Viewport } from '@/composables/viewport'
import { useDraft } from '@/stores/draft'
import { useDrawing } from '@/stores/drawing'
import { useNodes, type Hand } from '@/stores/nodes'

import { snappedTo, type Snapped } from './nodeSnap'

/** Nodes and handles of outlines that are changed by hand: painted at once while they are dragged, however many. */
const props = defineProps<{ viewport: Viewport }>()
const draft = useDraft()
const drawing = useDrawing()
const nodes = useNodes()
const canvas = ref<HTMLCanvasElement | null>(null)
const REACH_PX = 10
const PICK = '#2f5fd0'
const PAPER = '#fffdf7'

let held: Hand | null = null
let from: [number, number] = [0, 0]
let by: [number, number] = [0, 0]
let snap: Snapped | null = null
let band: { from: [number, number]; to: [number, number] } | null = null
const moved = ref(0)

const screen = ([x, y]: [number, number]): [number, number] => [
  x * props.viewport.view.scale + props.viewport.view.x,
  y * props.viewport.view.scale + props.viewport.view.y,
]
function place(event: MouseEvent): [number, number] {
  const box = canvas.value!.getBoundingClientRect()
  return [event.clientX - box.left, event.clientY - box.top]
}
const plane = ([x, y]: [number, number]): [number, number] => [
  (x - props.viewport.view.x) / props.viewport.view.scale,
  (y - props.viewport.view.y) / props.viewport.view.scale,
]

/** The handles that are shown: those of picked nodes. */
function shownHandles(): Hand[] {
  const near = new Set(nodes.pickedNodes.map(({ piece, number }) => `${piece} ${number}`))
  return nodes.hands.filter((one) => one.kind === 'handle' && near.has(`${one.piece} ${one.node}`))
}
function under(event: MouseEvent): Hand | null {
  const at = place(event)
  let best: Hand | null = null
  let least = REACH_PX
  for (const one of [...nodes.nodes, ...shownHandles()]) {
    const [x, y] = screen(one.at)
    const away = Math.hypot(x - at[0], y - at[1])
    if (away < least) [best, least] = [one, away]
  }
  return best
}

function press(event: PointerEvent) {
  if (event.button || (event.target as Element).closest('.handle')) return
  const hand = under(event)
  if (!hand && !event.shiftKey) return
  event.preventDefault()
  event.stopPropagation()
  canvas.value!.parentElement!.focus({ preventScroll: true })
  canvas.value!.parentElement!.setPointerCapture(event.pointerId)
  if (!hand) {
    band = { from: place(event), to: place(event) }
    return
  }
  if (hand.kind === 'node') {
    const next = new Set(event.shiftKey || nodes.picked.has(hand.id) ? nodes.picked : [])
    if (event.shiftKey && nodes.picked.has(hand.id)) next.delete(hand.id)
    else next.add(hand.id)
    nodes.picked = next
  }
  held = hand
  nodes.hold()
  from = plane(place(event))
  by = [0, 0]
}
function move(event: PointerEvent) {
  if (band) {
    event.stopPropagation()
    band.to = place(event)
    moved.value++
    return
  }
  if (!held) return
  event.stopPropagation()
  const at = plane(place(event))
  const to: [number, number] = [held.at[0] + at[0] - from[0], held.at[1] + at[1] - from[1]]
  snap = event.altKey
    ? null
    : snappedTo(
        to,
        held.at,
        nodes.nodes.filter((one) => !nodes.picked.has(one.id) && one !== held).map((one) => one.at),
        REACH_PX / props.viewport.view.scale / 1.4,
      )
  const end = snap?.at ?? to
  by = [end[0] - held.at[0], end[1] - held.at[1]]
  moved.value++
  if (far()) put(held, event, false)
}
const far = () => Math.hypot(...by) * props.viewport.view.scale >= 2
function put(hand: Hand, event: PointerEvent, resting: boolean) {
  if (hand.kind === 'node') nodes.move(...by, resting)
  else nodes.moveHandle(hand, [hand.at[0] + by[0], hand.at[1] + by[1]], !event.ctrlKey, resting)
}
function lift(event: PointerEvent) {
  if (band) {
    event.stopPropagation()
    const [a, b] = [band.from, band.to]
    const [left, right] = [Math.min(a[0], b[0]), Math.max(a[0], b[0])]
    const [top, bottom] = [Math.min(a[1], b[1]), Math.max(a[1], b[1])]
    const inside = nodes.nodes.filter(({ at }) => {
      const [x, y] = screen(at)
      return x >= left && x <= right && y >= top && y <= bottom
    })
    nodes.picked = new Set([...nodes.picked, ...inside.map((one) => one.id)])
    band = null
    moved.value++
    return
  }
  if (!held) return
  event.stopPropagation()
  const hand = held
  held = null
  snap = null
  if (far()) put(hand, event, true)
  nodes.letGo()
}
function twice(event: MouseEvent) {
  if (under(event)) return
  const at = plane(place(event))
  const [piece] = [...new Set(nodes.nodes.map((one) => one.piece))]
    .map((id) => ({ id, away: awayFrom(id, at) }))
    .sort((a, b) => a.away - b.away)
  if (!piece || piece.away * props.viewport.view.scale > REACH_PX) return
  event.preventDefault()
  event.stopPropagation()
  nodes.add(piece.id, at)
}
/** How far a place is from the lines of a piece. */
function awayFrom(id: string, [x, y]: [number, number]): number {
  const path = draft.shown?.pieces.find((one) => one.id === id)?.path ?? drawing.drawn.find((one) => one.piece.id === id)?.piece.path
  const shape = path && (draft.shown?.shapes.get(path) ?? drawing.drawn.find((one) => one.piece.path === path)?.shape)
  if (!shape) return Infinity
  let least = Infinity
  for (let k = 0; k < shape.closed.length; k++)
    for (let i = shape.start[k]; i + 1 < shape.start[k + 1]; i++) {
      const [ax, ay, bx, by_] = [shape.points[2 * i], shape.points[2 * i + 1], shape.points[2 * i + 2], shape.points[2 * i + 3]]
      const size = (bx - ax) ** 2 + (by_ - ay) ** 2
      const t = size ? Math.min(Math.max(((x - ax) * (bx - ax) + (y - ay) * (by_ - ay)) / size, 0), 1) : 0
      least = Math.min(least, Math.hypot(x - ax - t * (bx - ax), y - ay - t * (by_ - ay)))
    }
  return least
}

const BY: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }
function key(event: KeyboardEvent) {
  if (!nodes.pickedNodes.length || (event.target as Element).closest('input, textarea, select')) return
  const step = BY[event.key]
  if (!step && event.key !== 'Delete' && event.key !== 'Backspace') return
  event.preventDefault()
  event.stopPropagation()
  const far = nodes.stepMm * (event.shiftKey ? 10 : 1)
  if (step) nodes.move(step[0] * far, step[1] * far)
  else nodes.change('delete')
}

function draw() {
  frame = 0
  const element = canvas.value
  const context = element?.getContext('2d')
  if (!element || !context) return
  const { size } = props.viewport
  const ratio = window.devicePixelRatio || 1
  const [width, height] = [Math.round(size.width * ratio), Math.round(size.height * ratio)]
  if (element.width !== width || element.height !== height) Object.assign(element, { width, height })
  context.setTransform(ratio, 0, 0, ratio, 0, 0)
  context.clearRect(0, 0, size.width, size.height)
  const off = (one: Hand): [number, number] => {
    const own = held?.kind === 'node' ? nodes.picked.has(one.id) : held?.id === one.id
    return own ? [one.at[0] + by[0], one.at[1] + by[1]] : one.at
  }
  const paths = { free: new Path2D(), picked: new Path2D() }
  for (const one of nodes.nodes) {
    const [x, y] = screen(off(one))
    if (x < -9 || y < -9 || x > size.width + 9 || y > size.height + 9) continue
    const own = nodes.picked.has(one.id)
    paths[own ? 'picked' : 'free'].rect(x - 4, y - 4, 8, 8)
  }
  Object.assign(context, { fillStyle: PAPER, strokeStyle: PICK, lineWidth: 1.4 })
  context.fill(paths.free)
  context.stroke(paths.free)
  context.fillStyle = PICK
  context.fill(paths.picked)
  const byNumber = new Map(nodes.nodes.map((one) => [`${one.piece} ${one.number}`, one]))
  for (const one of shownHandles()) {
    const node = byNumber.get(`${one.piece} ${one.node}`)
    const [x, y] = screen(off(one))
    if (node) {
      const [nx, ny] = screen(off(node))
      context.beginPath()
      context.moveTo(nx, ny)
      context.lineTo(x, y)
      context.stroke()
    }
    context.beginPath()
    context.arc(x, y, 4.5, 0, 2 * Math.PI)
    context.fillStyle = PAPER
    context.fill()
    context.stroke()
  }
  for (const guide of snap?.guides ?? []) {
    const [a, b] = [screen(guide[0]), screen(guide[1])]
    context.setLineDash([4, 3])
    context.beginPath()
    context.moveTo(...a)
    context.lineTo(...b)
    context.stroke()
    context.setLineDash([])
  }
  if (band) context.strokeRect(band.from[0], band.from[1], band.to[0] - band.from[0], band.to[1] - band.from[1])
}

let frame = 0
const stop = watchEffect(() => {
  void [nodes.hands, nodes.picked, moved.value, { ...props.viewport.view }, { ...props.viewport.size }]
  if (!frame) frame = requestAnimationFrame(draw)
})
let work: HTMLElement | null = null
onMounted(() => {
  work = canvas.value!.parentElement
  work?.addEventListener('pointerdown', press, true)
  work?.addEventListener('pointermove', move, true)
  work?.addEventListener('pointerup', lift, true)
  work?.addEventListener('pointercancel', lift, true)
  work?.addEventListener('dblclick', twice, true)
  window.addEventListener('keydown', key, true)
})
onUnmounted(() => {
  stop()
  cancelAnimationFrame(frame)
  work?.removeEventListener('pointerdown', press, true)
  work?.removeEventListener('pointermove', move, true)
  work?.removeEventListener('pointerup', lift, true)
  work?.removeEventListener('pointercancel', lift, true)
  work?.removeEventListener('dblclick', twice, true)
  window.removeEventListener('keydown', key, true)
})
</script>

<template>
  <canvas ref="canvas" class="hands" aria-hidden="true" :data-nodes="nodes.nodes.length" :data-picked="nodes.pickedNodes.length" />
</template>

<style scoped>
.hands {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
</style>
