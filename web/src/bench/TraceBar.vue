<script setup lang="ts">
import { computed } from 'vue'

import { useLibrary } from '@/stores/library'
import { useTrace } from '@/stores/trace'
import { COLOUR, useTraceTool } from '@/stores/traceTool'
import { words } from '@/words'

/** What a press on a piece does while a trace is set up: it is left out, or it goes to a colour. */
const w = words.trace.bar
const trace = useTrace()
const tools = useTraceTool()
const library = useLibrary()
/** Colours of a workshop that pieces are parted by where their materials are not known yet. */
const PLAIN = ['#c0392b', '#1f3c88', '#e0b45c']
const MOST = 8
const colours = computed(() => {
  const own = trace.shown?.layers.map((layer) => layer.base) ?? []
  const known = [...own, ...PLAIN, ...library.library.materials.map((m) => m.color.toLowerCase())]
  return [...new Set(known)].slice(0, MOST)
})
const HINTS = {
  leave: w.leaveHint,
  paint: w.paintHint,
  colour: w.colourHint,
  crop: w.cropHint,
  inside: w.insideHint,
  beyond: w.beyondHint,
  ends: w.endsHint,
}
</script>

<template>
  <div class="bar" role="toolbar" :aria-label="w.label">
    <button class="leave" :aria-pressed="tools.tool === 'leave'" @click="tools.tool !== 'leave' && tools.choose('leave')">
      {{ w.leave }}
    </button>
    <span class="paints">
      {{ w.paint }}
      <button
        v-for="colour in colours"
        :key="colour"
        class="swatch"
        :style="{ background: colour }"
        :aria-label="w.paintWith(colour)"
        :aria-pressed="tools.tool === 'paint' && tools.paint === colour"
        draggable="true"
        @dragstart="($event as DragEvent).dataTransfer?.setData(COLOUR, colour)"
        @click="tools.choose('paint', colour)"
      />
      <input
        type="color"
        :aria-label="w.other"
        :title="w.other"
        value="#8a5a9e"
        @change="tools.choose('paint', ($event.target as HTMLInputElement).value)"
      />
    </span>
    <span class="hint">{{ HINTS[tools.tool] }}</span>
    <button v-if="tools.wishes" class="away" @click="tools.takeAllBack()">{{ w.takeBack(tools.wishes) }}</button>
  </div>
</template>

<style scoped>
.bar {
  position: absolute;
  inset: 14px 16px auto;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 14px;
  width: fit-content;
  min-height: 34px;
  padding: 3px 12px 3px 4px;
  border: 1px solid var(--rule);
  border-radius: 10px;
  background: var(--panel);
  font-size: 13px;
}
.leave {
  min-height: 28px;
  padding: 0 11px;
  border: 0;
  border-radius: 7px;
  background: none;
  color: var(--ink-2);
  font-weight: 600;
  cursor: pointer;
}
.leave[aria-pressed='true'] {
  background: var(--ink);
  color: var(--on-ink);
}
.paints {
  display: flex;
  align-items: center;
  gap: 6px;
}
.swatch,
input {
  width: 24px;
  height: 24px;
  padding: 0;
  border: 1px solid var(--edge);
  border-radius: 50%;
  cursor: pointer;
}
input {
  border-radius: 6px;
  background: none;
}
.swatch[aria-pressed='true'] {
  box-shadow:
    0 0 0 2px var(--panel),
    0 0 0 4px var(--ink);
}
.hint {
  color: var(--ink-2);
}
.away {
  padding: 2px 0;
  border: 0;
  background: none;
  color: var(--ink);
  text-decoration: underline;
  cursor: pointer;
}
</style>
