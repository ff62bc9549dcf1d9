<script setup lang="ts">
import type { Picture } from '@/api/types'

/** Pictures where they lie, drawn from what the server wrote anew of their pixels. */
const props = defineProps<{ pictures: Picture[]; job: string; pale?: string[] }>()
const onDark = (picture: Picture) => props.pale?.includes(picture.id)
</script>

<template>
  <g class="pictures">
    <template v-for="p in pictures" :key="p.id">
      <rect v-if="onDark(p)" class="ground" :width="p.size_px[0]" :height="p.size_px[1]" :transform="`matrix(${p.matrix.join(' ')})`" />
      <image
        :href="`/api/jobs/${job}/pictures/${p.sha256}`"
        :width="p.size_px[0]"
        :height="p.size_px[1]"
        :transform="`matrix(${p.matrix.join(' ')})`"
        preserveAspectRatio="none"
      />
    </template>
  </g>
</template>

<style scoped>
.ground {
  fill: #4a577a;
}
</style>
