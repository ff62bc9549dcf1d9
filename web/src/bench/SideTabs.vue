<script setup lang="ts">
import { useBench } from '@/stores/bench'
import { useJob } from '@/stores/job'
import { words } from '@/words'

/** The side shows the station's panel, or the list of layers and pieces. */
defineProps<{ station: string }>()
const bench = useBench()
const jobs = useJob()
</script>

<template>
  <div class="tabs" role="group" :aria-label="words.list.side">
    <button :class="{ on: !bench.list }" :aria-pressed="!bench.list" @click="bench.list = false">{{ station }}</button>
    <button :class="{ on: bench.list }" :aria-pressed="bench.list" @click="bench.list = true">
      {{ words.list.tab }} <span class="quiet">{{ jobs.head?.statistics.pieces }}</span> <kbd>l</kbd>
    </button>
  </div>
</template>

<style scoped>
.tabs {
  display: flex;
  gap: 4px;
  padding: 8px 14px 0;
  border-left: 1px solid var(--rule);
  border-bottom: 1px solid var(--rule);
}
button {
  height: 32px;
  padding: 0 10px;
  border: 0;
  border-bottom: 3px solid transparent;
  background: none;
  color: var(--ink-2);
  font-weight: 600;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  cursor: pointer;
}
button.on {
  border-bottom-color: var(--ink);
  color: var(--ink);
}
</style>
