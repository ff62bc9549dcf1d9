<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'

import { useDrawing } from '@/stores/drawing'
import { useJob } from '@/stores/job'
import { usePicks } from '@/stores/picks'
import { words } from '@/words'

/** The layer of what is picked; choosing another one, or a new one, moves it there. */
const picks = usePicks()
const jobs = useJob()
const drawing = useDrawing()
const w = words.picked

const layers = computed(() => drawing.drawing?.layers ?? [])
const own = computed(() => {
  const ids = new Set(picks.pieces.map((id) => picks.byId.get(id)?.layer.id))
  return ids.size === 1 ? [...ids][0] : ''
})
const naming = ref(false)
const name = ref('')
const field = ref<HTMLInputElement | null>(null)

async function choose(layer: string) {
  if (layer !== 'new') return void jobs.addStep(w.moving, 'to-layer', { layer }, picks.pieces)
  naming.value = true
  name.value = ''
  await nextTick()
  field.value?.focus()
}
function named() {
  naming.value = false
  const first = picks.byId.get(picks.pieces[0])
  const color = first?.piece.fill ?? first?.layer.color
  if (name.value.trim()) void jobs.addStep(w.moving, 'to-layer', { name: name.value.trim(), color }, picks.pieces)
}
</script>

<template>
  <input
    v-if="naming"
    ref="field"
    v-model="name"
    class="layer"
    maxlength="80"
    :placeholder="w.newName"
    :aria-label="w.newName"
    @keydown.enter="named"
    @keydown.esc.stop="naming = false"
    @blur="naming = false"
  />
  <select
    v-else
    class="layer"
    :value="own"
    :disabled="!!jobs.busy"
    :aria-label="w.layer"
    @change="choose(($event.target as HTMLSelectElement).value)"
  >
    <option v-if="!own" value="">{{ w.layers }}</option>
    <option v-for="layer in layers" :key="layer.id" :value="layer.id">{{ w.on(layer.name) }}</option>
    <option value="new">{{ w.newLayer }}</option>
  </select>
</template>

<style scoped>
.layer {
  height: 28px;
  max-width: 140px;
  padding: 0 6px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--panel);
}
</style>
