<script setup lang="ts">
import { computed, onMounted, ref, shallowRef } from 'vue'

import { client, want } from '@/api/client'
import type { Sketch } from '@/api/types'
import { dataOf } from '@/api/unpack'

import PictureLayer from './PictureLayer.vue'

/** A document small, for lists; fetched when it comes into view. */
const props = defineProps<{ document: string; job: string }>()
const root = ref<HTMLElement | null>(null)
const sketch = shallowRef<Sketch | null>(null)
const failed = ref(false)

async function load() {
  try {
    sketch.value = await want(
      client.GET('/api/documents/{document}/sketch', { params: { path: { document: props.document } } }),
    )
  } catch {
    failed.value = true
  }
}
onMounted(() => {
  const seen = new IntersectionObserver(([entry]) => {
    if (!entry.isIntersecting) return
    seen.disconnect()
    void load()
  })
  seen.observe(root.value!)
})
const box = computed(() => {
  const b = sketch.value?.box
  if (!b) return '0 0 1 1'
  const margin = Math.max(b[2] - b[0], b[3] - b[1]) * 0.04
  return `${b[0] - margin} ${b[1] - margin} ${b[2] - b[0] + 2 * margin} ${b[3] - b[1] + 2 * margin}`
})
</script>

<template>
  <div ref="root" class="sketch">
    <span v-if="failed" class="small quiet">no picture</span>
    <span v-else-if="sketch && !sketch.box" class="small empty">nothing brought in yet</span>
    <svg v-else-if="sketch" :viewBox="box" aria-hidden="true">
      <PictureLayer :pictures="sketch.pictures" :job="job" />
      <path
        v-for="(piece, i) in sketch.pieces"
        :key="i"
        :d="dataOf(piece)"
        :fill="piece.fill ?? 'none'"
        :fill-rule="piece.fill_rule as 'evenodd'"
        :class="{ bare: !piece.fill }"
      />
    </svg>
  </div>
</template>

<style scoped>
.sketch {
  display: grid;
  place-items: center;
  width: 100%;
  height: 100%;
}
svg {
  width: 100%;
  height: 100%;
}
.bare {
  stroke: #1b2a4e;
  stroke-width: 1;
  vector-effect: non-scaling-stroke;
}
.empty {
  color: #5d6783;
}
</style>
