<script setup lang="ts">
import { computed } from 'vue'

import type { FoundLayer } from '@/api/previews'
import { useLibrary } from '@/stores/library'
import { useTrace } from '@/stores/trace'
import { words } from '@/words'

/** The layers that are found: each is left out, becomes one with another, or is made of another material. */
const w = words.trace
const trace = useTrace()
const library = useLibrary()
const layers = computed<FoundLayer[]>(() => trace.shown?.layers ?? [])
const gone = computed(() => trace.options.left_out)

/** A wish about a colour that is there already is put in its place. */
function give(layer: FoundLayer, colour: string) {
  const others = trace.options.given.filter((wish) => !wish.startsWith(`${layer.base} `))
  trace.tell('given', colour === layer.base ? others : [...others, `${layer.base} ${colour}`])
}
function join(layer: FoundLayer, other: string) {
  if (other) trace.tell('joined', [...trace.options.joined, `${layer.base} ${other}`])
}
const leave = (layer: FoundLayer) => trace.tell('left_out', [...gone.value, layer.base])
const keepOnly = (layer: FoundLayer) =>
  trace.tell('left_out', [...gone.value, ...layers.value.flatMap((one) => (one === layer ? [] : one.base))])
const bring = (colour: string) =>
  trace.tell(
    'left_out',
    gone.value.filter((one) => one !== colour),
  )
</script>

<template>
  <div v-if="layers.length > 1 || gone.length || trace.options.joined.length" class="colours">
    <b>{{ w.layersFound }}</b>
    <ul>
      <li v-for="layer in layers" :key="layer.base">
        <input
          type="color"
          list="material-colours"
          :value="layer.color"
          :aria-label="w.madeOf(layer.name)"
          :title="w.madeOf(layer.name)"
          @change="give(layer, ($event.target as HTMLInputElement).value)"
        />
        <span class="name">{{ layer.name }}</span>
        <select
          v-if="layers.length > 1"
          :aria-label="w.joinTo(layer.name)"
          value=""
          @change="join(layer, ($event.target as HTMLSelectElement).value)"
        >
          <option value="">{{ w.join }}</option>
          <option v-for="other in layers.filter((one) => one !== layer)" :key="other.base" :value="other.base">{{ other.name }}</option>
        </select>
        <button v-if="layers.length > 1" :aria-label="w.onlyThis(layer.name)" @click="keepOnly(layer)">{{ w.only }}</button>
        <button :aria-label="w.leaveOut(layer.name)" @click="leave(layer)">{{ w.leave }}</button>
      </li>
      <li v-for="colour in gone" :key="colour" class="gone">
        <span class="swatch" :style="{ background: colour }" />
        <span class="name">{{ w.isLeftOut }}</span>
        <button @click="bring(colour)">{{ w.bringBack }}</button>
      </li>
    </ul>
    <button v-if="trace.options.joined.length" class="away" @click="trace.reset('joined')">
      {{ w.part(trace.options.joined.length) }}
    </button>
    <datalist id="material-colours">
      <option v-for="material in library.library.materials" :key="material.id" :value="material.color">{{ material.name }}</option>
    </datalist>
  </div>
</template>

<style scoped>
.colours {
  display: grid;
  gap: 6px;
}
ul {
  display: grid;
  gap: 4px;
  max-height: 240px;
  margin: 0;
  padding: 0;
  overflow: auto;
  list-style: none;
}
li {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 32px;
}
.name {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.gone .name {
  color: var(--ink-2);
}
input[type='color'] {
  width: 30px;
  height: 26px;
  padding: 0;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: none;
  cursor: pointer;
}
.swatch {
  width: 30px;
  height: 12px;
  border: 1px solid var(--edge);
  border-radius: 6px;
}
select,
li button {
  height: 28px;
  padding: 0 6px;
  border: 1px solid var(--edge);
  border-radius: 7px;
  background: var(--raised);
  color: var(--ink);
  font: inherit;
  font-size: 12.5px;
  cursor: pointer;
}
select {
  max-width: 84px;
}
</style>
