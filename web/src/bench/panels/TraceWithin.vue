<script setup lang="ts">
import { computed } from 'vue'

import { useDrawing } from '@/stores/drawing'
import { usePicks } from '@/stores/picks'
import { useTrace } from '@/stores/trace'
import { words } from '@/words'

/** Lines are found within other pieces only, where there are any. */
const w = words.trace
const trace = useTrace()
const drawing = useDrawing()
const picks = usePicks()
/** More are not listed one by one. */
const MOST = 40
const pieces = computed(() => drawing.drawn.map((one) => one.piece))
const picked = computed(() => [...new Set(picks.picks.map((pick) => pick.piece))])
const NONE = ''
const value = computed(() => {
  const now = trace.options.within
  if (!now.length) return NONE
  return now.length === 1 ? now[0] : now.length === pieces.value.length ? 'all' : 'picked'
})
function choose(to: string) {
  const ids = to === 'all' ? pieces.value.map((piece) => piece.id) : to === 'picked' ? picked.value : to ? [to] : []
  trace.tell('within', ids)
}
</script>

<template>
  <label v-if="pieces.length" class="within">
    {{ w.within }}
    <select :value="value" @change="choose(($event.target as HTMLSelectElement).value)">
      <option :value="NONE">{{ w.everywhere }}</option>
      <option v-if="picked.length > 1 || value === 'picked'" value="picked">{{ w.inPicked(picked.length) }}</option>
      <option v-if="pieces.length > 1" value="all">{{ w.inAll(pieces.length) }}</option>
      <option v-for="(piece, k) in pieces.slice(0, MOST)" :key="piece.id" :value="piece.id">{{ piece.name || w.piece(k + 1) }}</option>
    </select>
  </label>
</template>

<style scoped>
.within {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
}
select {
  max-width: 150px;
  height: 32px;
  padding: 0 6px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--raised);
  color: var(--ink);
  font: inherit;
}
</style>
