<script setup lang="ts">
import { onMounted, onUnmounted } from 'vue'

import { mm, parseLength } from '@/composables/lengths'
import { useNodes } from '@/stores/nodes'
import { words } from '@/words'

import TypedField from '../TypedField.vue'

/** What can be done to the nodes that are picked on the work. */
const nodes = useNodes()
const w = words.build.nodes
const ACTS = Object.keys(w.acts) as (keyof typeof w.acts)[]
/** How many picked nodes an act needs at least. */
const LEAST: Partial<Record<keyof typeof w.acts, number>> = { straight: 2, arc: 2, join: 2 }

function takeStep(typed: string) {
  const found = parseLength(typed)
  if (found && found > 0) nodes.stepMm = found
}
/** Going back goes back on the last change first. */
function key(event: KeyboardEvent) {
  if (event.key.toLowerCase() !== 'z' || !(event.ctrlKey || event.metaKey) || event.shiftKey || !nodes.edits.length) return
  event.preventDefault()
  event.stopPropagation()
  nodes.back()
}
onMounted(() => window.addEventListener('keydown', key, true))
onUnmounted(() => window.removeEventListener('keydown', key, true))
</script>

<template>
  <p class="small quiet">{{ nodes.pickedNodes.length ? w.picked(nodes.pickedNodes.length) : w.none }}</p>
  <div class="acts" role="group" :aria-label="w.hands">
    <button v-for="act in ACTS" :key="act" :disabled="nodes.pickedNodes.length < (LEAST[act] ?? 1)" @click="nodes.change(act)">
      {{ w.acts[act] }}
    </button>
  </div>
  <label class="row">
    <span>{{ w.step }}</span>
    <TypedField :value="`${mm(nodes.stepMm)} mm`" @take="takeStep" />
  </label>
  <p class="small quiet">
    {{ w.free }}
    <button v-if="nodes.edits.length" class="link" @click="nodes.back">{{ w.back }}</button>
  </p>
</template>

<style scoped>
.acts {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px;
}
.acts button {
  min-height: 32px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--raised);
  color: var(--ink);
  font-weight: 600;
  cursor: pointer;
}
.acts button:disabled {
  color: var(--ink-2);
  font-weight: 400;
  cursor: default;
}
.row {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
}
.link {
  padding: 0;
  border: 0;
  background: none;
  color: var(--ink-2);
  text-decoration: underline;
  cursor: pointer;
}
</style>
