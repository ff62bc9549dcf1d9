<script setup lang="ts">
import { computed } from 'vue'

import type { Finding } from '@/api/types'
import type { Viewport } from '@/composables/viewport'

/** Findings as numbers on a leader, in screen pixels. Plates make way for each other; where a crowd leaves no room near
 * the place, the ring stands alone until somebody zooms in or picks it. */
const props = defineProps<{ findings: Finding[]; picked: string | null; viewport: Viewport }>()
const emit = defineEmits<{ pick: [key: string] }>()

const WIDE = 24
const HIGH = 22

/** How often a plate steps aside before its ring stands alone. */
const STEPS_ASIDE = 3
/** Where more findings than this are in sight, those that are only worth knowing are small rings. */
const CROWD = 60

const marks = computed(() => {
  const { size } = props.viewport
  const taken: [number, number][] = []
  const inSight = props.findings
    .filter((f) => f.place)
    .map((finding) => ({ finding, at: props.viewport.toScreen(finding.place![0], finding.place![1]) }))
    .filter(({ at: [x, y] }) => x > -20 && y > -20 && x < size.width + 20 && y < size.height + 20)
  return inSight.map(({ finding, at: [x, y] }) => {
    const small = inSight.length > CROWD && finding.level === 'note' && finding.key !== props.picked
    if (small) return { finding, plate: false, small, x, y, px: x, py: y, jx: x, jy: y }
    const left = x + 30 + WIDE > size.width
    const px = x + (left ? -18 - WIDE : 20)
    let py = Math.max(y - 32, 6)
    const crowded = () => taken.some(([tx, ty]) => Math.abs(tx - px) < WIDE + 4 && Math.abs(ty - py) < HIGH + 4)
    for (let i = 0; i < STEPS_ASIDE && crowded(); i++) py += HIGH + 5
    const plate = finding.key === props.picked || !crowded()
    if (plate) taken.push([px, py])
    return { finding, plate, small, x, y, px, py, jx: left ? px + WIDE : px, jy: py + HIGH / 2 }
  })
})
</script>

<template>
  <g class="findings">
    <g
      v-for="{ finding, plate, small, x, y, px, py, jx, jy } in marks"
      :key="finding.key"
      class="mark"
      :class="[finding.level, { picked: finding.key === picked }]"
      role="button"
      tabindex="0"
      :aria-label="`Finding ${finding.number}: ${finding.title}`"
      @click.stop="emit('pick', finding.key)"
      @keydown.enter.stop="emit('pick', finding.key)"
      @pointerdown.stop
    >
      <circle :cx="x" :cy="y" :r="finding.key === picked ? 9 : small ? 3 : 6" />
      <template v-if="plate">
        <line :x1="x" :y1="y" :x2="jx" :y2="jy" />
        <rect :x="px" :y="py" :width="WIDE" :height="HIGH" rx="4" />
        <text :x="px + WIDE / 2" :y="py + HIGH / 2 + 4.5">{{ finding.number }}</text>
      </template>
    </g>
  </g>
</template>

<style scoped>
.mark {
  cursor: pointer;
  outline: none;
}
circle {
  pointer-events: all;
}
line,
circle {
  stroke: #c2361f;
  stroke-width: 1.4;
  fill: none;
}
rect {
  fill: #fffdf7;
  stroke: #c2361f;
  stroke-width: 1.6;
}
text {
  font-size: 12.5px;
  font-weight: 700;
  text-anchor: middle;
  fill: #c2361f;
}
.stops rect {
  fill: #c2361f;
}
.stops text {
  fill: #fff;
}
.note rect {
  stroke: none;
}
.picked circle,
.picked rect {
  stroke-width: 2.4;
}
.mark:focus-visible rect,
.mark:focus-visible circle {
  stroke: #2f5fd0;
  stroke-width: 3;
}
</style>
