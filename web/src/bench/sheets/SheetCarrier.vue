<script setup lang="ts">
import { computed } from 'vue'

import type { SheetShown } from '@/api/types'
import { words } from '@/words'

/** What the material lies on, with its lines and what the tool reaches; or, over the sheet, the arrow of the way it goes
 * in. hair: a pixel on the screen, in mm. */
const props = defineProps<{ carrier: NonNullable<SheetShown['carrier']>; hair: number; arrow?: boolean }>()
const w = words.sheets

const grid = computed(() => {
  const on = props.carrier
  const lines = []
  for (let x = on.grid_mm; x < on.width_mm; x += on.grid_mm) lines.push(`M${x} 0V${on.height_mm}`)
  for (let y = on.grid_mm; y < on.height_mm; y += on.grid_mm) lines.push(`M0 ${y}H${on.width_mm}`)
  return lines.join('')
})
const way = computed(() => {
  const on = props.carrier
  if (on.kind === 'bed') return null
  const { width_mm: width, height_mm: height } = on
  const turn = { top: 0, right: 90, bottom: 180, left: 270 }[on.goes_in] ?? 0
  const at = { top: [width / 2, 8], bottom: [width / 2, height - 8], left: [8, height / 2], right: [width - 8, height / 2] }[on.goes_in]!
  return { turn, at }
})
</script>

<template>
  <g v-if="!arrow">
    <rect :width="carrier.width_mm" :height="carrier.height_mm" :rx="4" class="mat" :stroke-width="hair" />
    <path :d="grid" class="grid" :stroke-width="hair" />
    <rect
      :x="carrier.reach[0]"
      :y="carrier.reach[1]"
      :width="carrier.reach[2]"
      :height="carrier.reach[3]"
      class="reach"
      :stroke-width="1.6 * hair"
      :stroke-dasharray="`${8 * hair} ${5 * hair}`"
    />
  </g>
  <g v-else>
    <g v-if="way" :transform="`translate(${way.at.join(' ')}) rotate(${way.turn})`" class="arrow">
      <title>{{ w.goesIn }}</title>
      <path d="M0 -6L5 2H1.6V8H-1.6V2H-5Z" />
    </g>
  </g>
</template>

<style scoped>
.mat {
  fill: var(--panel);
  stroke: var(--edge);
}
.grid {
  fill: none;
  stroke: var(--rule);
}
.reach {
  fill: none;
  stroke: var(--ink);
}
.arrow path {
  fill: var(--ink);
  stroke: var(--ground);
  stroke-width: 1px;
  paint-order: stroke;
}
</style>
