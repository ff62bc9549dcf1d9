<script setup lang="ts">
import { useBench, type Look } from '@/stores/bench'

const bench = useBench()
const LOOKS: { id: Look; name: string; key: string; hint: string }[] = [
  { id: 'art', name: 'Art', key: '1', hint: 'as it will look' },
  { id: 'lines', name: 'Lines', key: '2', hint: 'exactly what the tool follows' },
]
</script>

<template>
  <div class="looks" role="group" aria-label="How the work is shown">
    <button
      v-for="look in LOOKS"
      :key="look.id"
      :class="{ on: bench.look === look.id }"
      :aria-pressed="bench.look === look.id"
      :title="look.hint"
      @click="bench.look = look.id"
    >
      {{ look.name }} <kbd>{{ look.key }}</kbd>
    </button>
  </div>
</template>

<style scoped>
.looks {
  position: absolute;
  left: 16px;
  top: 14px;
  display: flex;
  border: 1px solid var(--rule);
  border-radius: 10px;
  overflow: hidden;
  background: var(--panel);
}
button {
  display: flex;
  align-items: center;
  gap: 6px;
  height: 32px;
  padding: 0 12px;
  border: 0;
  background: none;
  color: var(--ink-2);
  font-weight: 600;
  cursor: pointer;
}
button + button {
  border-left: 1px solid var(--rule);
}
button.on {
  background: var(--ink);
  color: var(--on-ink);
}
button:focus-visible {
  outline-offset: -3px;
}
kbd {
  opacity: 0.75;
}
</style>
