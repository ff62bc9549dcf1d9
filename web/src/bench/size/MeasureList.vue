<script setup lang="ts">
import { mdiClose } from '@mdi/js'
import { computed } from 'vue'

import { useBench } from '@/stores/bench'
import { useDrawing } from '@/stores/drawing'
import { useJob } from '@/stores/job'
import { words } from '@/words'

import IconButton from '../IconButton.vue'

/** What is measured and stays: each with its size and what it must be; a press reopens it. */
const bench = useBench()
const drawing = useDrawing()
const jobs = useJob()
const w = words.size
const rows = computed(() => drawing.drawing?.dimensions ?? [])
const must = (size: number, kind: string) => w.mustBe(kind === 'angle' ? `${size}°` : `${size} mm`)
</script>

<template>
  <ul v-if="rows.length" class="rows" :aria-label="w.measures">
    <li v-for="one in rows" :key="one.id" :class="{ off: one.holds === false }">
      <button class="row" :aria-label="w.change(one.name)" @click="bench.reopened = one.id">
        <b>{{ one.name }}</b>
        <span>{{ one.size === null ? w.gone : one.text }}</span>
        <span v-if="one.must_be !== null" class="small must">{{ must(one.must_be, one.kind) }}</span>
      </button>
      <IconButton :icon="mdiClose" :name="w.remove(one.name)" :disabled="!!jobs.busy" @press="jobs.dropStep(one.id)" />
    </li>
  </ul>
</template>

<style scoped>
.rows {
  display: grid;
  gap: 2px;
  margin: 0 -8px 8px;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  align-items: center;
}
.row {
  flex: 1;
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 0 10px;
  min-height: 34px;
  padding: 6px 8px;
  border: 1px solid transparent;
  border-radius: 8px;
  background: none;
  color: inherit;
  text-align: left;
  cursor: pointer;
}
.row:hover {
  border-color: var(--rule);
  background: var(--raised);
}
.must {
  width: 100%;
  color: var(--ink-2);
}
.off .must,
.off .row span {
  color: var(--flag);
}
</style>
