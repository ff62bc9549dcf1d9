<script setup lang="ts">
import type { Picture } from '@/api/types'

/** Pictures where they lie, drawn from what the server wrote anew of their pixels. */
defineProps<{ pictures: Picture[]; job: string }>()
</script>

<template>
  <g class="pictures">
    <image
      v-for="p in pictures"
      :key="p.id"
      :href="`/api/jobs/${job}/pictures/${p.sha256}`"
      :width="p.size_px[0]"
      :height="p.size_px[1]"
      :transform="`matrix(${p.matrix.join(' ')})`"
      preserveAspectRatio="none"
    />
  </g>
</template>
