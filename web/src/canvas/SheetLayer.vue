<script setup lang="ts">
import { computed } from 'vue'

const props = defineProps<{
  width: number
  height: number
  scale: number
  /** What the machine can reach, from the sheet's top left, in mm. */
  reach: [number, number] | null
}>()

const STEPS = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000]
/** Ticks stand at least 6 px apart, in round millimetres; every tenth (or fifth) is longer. */
const step = computed(() => STEPS.find((s) => s * props.scale >= 6) ?? 1000)

function ticks(length: number, at: (v: number, long: boolean) => string): string {
  const parts: string[] = []
  const every = step.value
  for (let i = 1; i * every < length && i < 2000; i++) parts.push(at(i * every, i % 10 === 0))
  return parts.join('')
}
const rim = computed(() => {
  const px = 1 / props.scale
  const across = ticks(props.width, (x, long) => `M${x} 0V${(long ? 9 : 5) * px}`)
  const down = ticks(props.height, (y, long) => `M0 ${y}H${(long ? 9 : 5) * px}`)
  return across + down
})
const beyond = computed(() => {
  if (!props.reach) return ''
  const [w, h] = props.reach
  const { width, height } = props
  const right = w < width ? `M${w} 0H${width}V${height}H${w}Z` : ''
  const below = h < height ? `M0 ${h}H${Math.min(w, width)}V${height}H0Z` : ''
  return right + below
})
</script>

<template>
  <g class="sheet">
    <defs>
      <pattern id="out-of-reach" width="6" height="6" patternUnits="userSpaceOnUse" :patternTransform="`scale(${1 / scale}) rotate(45)`">
        <line class="hatch" x1="0" y1="0" x2="0" y2="6" />
      </pattern>
    </defs>
    <rect class="shadow" :x="2 / scale" :y="4 / scale" :width="width" :height="height" :rx="2 / scale" />
    <rect class="paper" :width="width" :height="height" :rx="2 / scale" />
    <path v-if="beyond" class="beyond" :d="beyond"><title>out of the machine's reach</title></path>
    <path class="ticks" :d="rim" />
  </g>
</template>

<style scoped>
.paper {
  fill: var(--paper);
}
.shadow {
  fill: #1b2a4e;
  opacity: 0.1;
}
.ticks {
  fill: none;
  stroke: #8a8471;
  stroke-width: 1;
  vector-effect: non-scaling-stroke;
}
.beyond {
  fill: url(#out-of-reach);
}
.hatch {
  stroke: #8a8471;
  stroke-width: 1.4;
  opacity: 0.6;
}
</style>
