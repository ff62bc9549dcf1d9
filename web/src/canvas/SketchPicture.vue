<script setup lang="ts">
import { ref, shallowRef } from 'vue'

import { client, want } from '@/api/client'
import type { Sketch } from '@/api/types'
import { useSeen } from '@/composables/seen'

import PictureLayer from './PictureLayer.vue'
import SketchLines from './SketchLines.vue'

/** A document small, for lists; fetched when it comes into view. */
const props = defineProps<{ document: string; job: string }>()
const sketch = shallowRef<Sketch | null>(null)
const failed = ref(false)

const root = useSeen(async () => {
  try {
    sketch.value = await want(
      client.GET('/api/jobs/{job}/documents/{document}/sketch', { params: { path: { job: props.job, document: props.document } } }),
    )
  } catch {
    failed.value = true
  }
})
</script>

<template>
  <div ref="root" class="sketch">
    <span v-if="failed" class="small quiet">no picture</span>
    <span v-else-if="sketch && !sketch.box" class="small empty">nothing brought in yet</span>
    <SketchLines v-else-if="sketch" :sketch="sketch"><PictureLayer :pictures="sketch.pictures" :job="job" /></SketchLines>
  </div>
</template>

<style scoped>
.sketch {
  display: grid;
  place-items: center;
  width: 100%;
  height: 100%;
}
.empty {
  color: #5d6783;
}
</style>
