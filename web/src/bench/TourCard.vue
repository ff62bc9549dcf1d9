<script setup lang="ts">
import { nextTick, onMounted, onUnmounted, ref, watch } from 'vue'

import { useTour } from '@/composables/tour'
import { words } from '@/words'

/** A stop of the tour: a sentence beside what it is about, which is framed. The bench can be used meanwhile. */
const tour = useTour()
const frame = ref<{ left: number; top: number; width: number; height: number } | null>(null)
const card = ref<HTMLElement | null>(null)
const place = ref({ left: 0, top: 0 })
const WIDE = 320
const GAP = 14

async function follow() {
  const stop = tour.stop.value
  const target = stop && document.querySelector(stop.at)
  if (!target) return void (frame.value = null)
  const box = target.getBoundingClientRect()
  frame.value = { left: box.left - 4, top: box.top - 4, width: box.width + 8, height: box.height + 8 }
  await nextTick()
  const high = card.value?.offsetHeight ?? 160
  const right = box.right + GAP + WIDE < innerWidth
  const left = right ? box.right + GAP : box.left - GAP - WIDE > 0 ? box.left - GAP - WIDE : Math.max(box.left + 24, 8)
  place.value = { left, top: Math.min(Math.max(box.top + 24, 60), innerHeight - high - 16) }
}
watch([tour.stop, tour.at], follow, { immediate: true, flush: 'post' })
onMounted(() => window.addEventListener('resize', follow))
onUnmounted(() => window.removeEventListener('resize', follow))
</script>

<template>
  <template v-if="tour.stop.value">
    <div
      v-if="frame"
      class="frame"
      :style="{ left: `${frame.left}px`, top: `${frame.top}px`, width: `${frame.width}px`, height: `${frame.height}px` }"
    />
    <section
      ref="card"
      class="card"
      :style="{ left: `${place.left}px`, top: `${place.top}px`, width: `${WIDE}px` }"
      :aria-label="words.tour.title"
    >
      <h3>{{ tour.stop.value.title }}</h3>
      <p>{{ tour.stop.value.text }}</p>
      <div class="row">
        <span class="quiet small">{{ words.tour.of(tour.at.value + 1, tour.count) }}</span>
        <span class="spring" />
        <v-btn size="small" variant="text" @click="tour.end()">{{ words.tour.skip }}</v-btn>
        <v-btn size="small" color="primary" @click="tour.next()">{{ tour.last.value ? words.tour.done : words.tour.next }}</v-btn>
      </div>
    </section>
  </template>
</template>

<style scoped>
.frame {
  position: fixed;
  z-index: 1500;
  border: 3px solid var(--pick);
  border-radius: 12px;
  pointer-events: none;
}
.card {
  position: fixed;
  z-index: 1501;
  display: grid;
  gap: 8px;
  padding: 16px;
  border: 1px solid var(--edge);
  border-radius: 10px;
  background: var(--raised);
  color: var(--ink);
  box-shadow: 0 8px 28px rgb(27 42 78 / 0.28);
}
.card h3 {
  margin: 0;
}
.row {
  display: flex;
  align-items: center;
  gap: 4px;
}
.spring {
  flex: 1;
}
</style>
