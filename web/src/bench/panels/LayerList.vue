<script setup lang="ts">
import { computed } from 'vue'

import type { Layer } from '@/api/types'
import { PATTERN, TREATMENT } from '@/canvas/patterns'
import { useDrawing } from '@/stores/drawing'
import { useJob } from '@/stores/job'
import { words } from '@/words'

/** Layers: what is made of one material or by one tool, with what the machine does with each. */
const jobs = useJob()
const drawing = useDrawing()
const layers = computed(() =>
  (drawing.drawing?.layers ?? []).map((layer) => ({
    layer,
    pieces: drawing.drawn.filter((d) => d.layer.id === layer.id).length,
    pictures: drawing.drawing!.pictures.filter((p) => p.layer === layer.id).length,
  })),
)
const TREATMENTS = Object.entries(TREATMENT).map(([id, t]) => ({ id: id as Layer['treatment'], ...t }))

function treat(layer: Layer, treatment: string) {
  void jobs.setLayer(words.list.changing, layer.id, { treatment })
}
</script>

<template>
  <div v-if="layers.length" class="part">
    <h3>{{ words.source.layersTitle }}</h3>
    <ul>
      <li v-for="{ layer, pieces, pictures } in layers" :key="layer.id">
        <span class="swatch" :style="{ background: layer.color }" aria-hidden="true" />
        <span class="name">
          {{ layer.name }}
          <span class="small quiet">{{ pictures && !pieces ? words.source.pictures(pictures) : words.source.pieces(pieces) }}</span>
        </span>
        <svg class="pattern" viewBox="0 0 40 6" aria-hidden="true">
          <line x1="1" y1="3" x2="39" y2="3" :stroke-dasharray="PATTERN[layer.treatment].join(' ')" />
        </svg>
        <select
          :value="layer.treatment"
          :disabled="!!jobs.busy"
          :aria-label="words.list.treatment(layer.name)"
          @change="treat(layer, ($event.target as HTMLSelectElement).value)"
        >
          <option v-for="t in TREATMENTS" :key="t.id" :value="t.id" :title="t.hint">{{ t.name }}</option>
        </select>
      </li>
    </ul>
  </div>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 6px;
}
li {
  display: grid;
  grid-template-columns: 16px 1fr 40px auto;
  align-items: center;
  gap: 8px;
}
.swatch {
  width: 16px;
  height: 16px;
  border-radius: 4px;
  border: 1px solid var(--edge);
}
.name {
  overflow-wrap: anywhere;
}
.pattern line {
  stroke: var(--ink);
  stroke-width: 1.6;
}
select {
  height: 30px;
  padding: 0 6px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--raised);
  cursor: pointer;
}
select option {
  color: #1b2a4e;
  background: #fffdf7;
}
</style>
