<script setup lang="ts">
import { computed } from 'vue'

import { useAsides } from '@/stores/asides'
import { useBench } from '@/stores/bench'
import { useDrawing } from '@/stores/drawing'
import { useJob } from '@/stores/job'
import { words } from '@/words'

/** What the Weeded look has found, in figures; or that it is being worked out. */
const bench = useBench()
const asides = useAsides()
const drawing = useDrawing()
const jobs = useJob()
const view = computed(() => bench.views.find((one) => one.look === 'weeded'))
const found = computed(() => view.value && asides.weeded.get(asides.keyOf(view.value.document || drawing.shown, jobs.head?.settings)))
const sum = (what: 'pieces' | 'loose' | 'open_lines' | 'area_mm2') => found.value!.layers.reduce((total, layer) => total + layer[what], 0)
</script>

<template>
  <div v-if="view" class="said" :class="{ right: bench.second === view, two: bench.second }" role="status">
    <template v-if="found">
      <template v-if="found.layers.length">
        <b>{{ words.weeded.stays(sum('pieces'), (sum('area_mm2') / 100).toFixed(1)) }}</b>
        <span v-if="sum('loose')" class="flag">{{ words.weeded.loose(sum('loose')) }}</span>
        <span v-if="sum('open_lines')" class="flag">{{ words.weeded.open(sum('open_lines')) }}</span>
        <span class="quiet small">{{ words.weeded.from(found.format) }}</span>
      </template>
      <span v-else>{{ words.weeded.none }}</span>
    </template>
    <span v-else-if="asides.problem" class="flag">{{ asides.problem }}</span>
    <template v-else>
      <span>{{ words.weeded.working }}</span>
      <v-btn v-if="asides.run" class="stop" size="small" variant="outlined" @click="asides.halt()">{{ words.notices.stop }}</v-btn>
    </template>
  </div>
</template>

<style scoped>
.said {
  position: absolute;
  left: 16px;
  bottom: 14px;
  display: grid;
  gap: 2px;
  max-width: 340px;
  padding: 8px 14px;
  border: 1px solid var(--rule);
  border-radius: 10px;
  background: var(--panel);
  pointer-events: none;
}
.right {
  left: auto;
  right: 16px;
}
/* Above the names of the sides. */
.two {
  bottom: 52px;
  max-width: 270px;
}
.stop {
  justify-self: start;
  margin-top: 4px;
  pointer-events: auto;
}
.flag {
  color: var(--flag);
  font-weight: 600;
}
</style>
