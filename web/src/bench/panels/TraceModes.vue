<script setup lang="ts">
import { computed } from 'vue'

import { useTrace } from '@/stores/trace'
import { MODES } from '@/stores/traceOptions'
import { words } from '@/words'

/** The ways of tracing, each as a small picture of this very picture. */
const w = words.trace
const trace = useTrace()
const box = computed(() => {
  const [width, height] = trace.tiles?.size ?? [4, 3]
  return `0 0 ${width} ${height}`
})
const longest = computed(() => Math.max(...(trace.tiles?.size ?? [1])))
</script>

<template>
  <fieldset class="modes" :disabled="!trace.proposal">
    <legend>{{ w.how }}</legend>
    <label v-for="mode in MODES" :key="mode" class="mode" :title="trace.tiles?.tiles[mode]?.sentence || w.does[mode]">
      <input class="unseen" type="radio" name="trace-mode" :value="mode" :checked="trace.mode === mode" @change="trace.chooseMode(mode)" />
      <span class="picture">
        <svg v-if="trace.tiles" :viewBox="box" aria-hidden="true">
          <path
            v-for="(layer, k) in trace.tiles.tiles[mode]?.layers ?? []"
            :key="k"
            :d="layer.d"
            fill-rule="evenodd"
            :style="
              layer.lines || mode === 'outside'
                ? { fill: 'none', stroke: layer.color, strokeWidth: `${longest * 0.016}px` }
                : { fill: layer.color }
            "
          />
        </svg>
        <span v-if="trace.tiles?.tiles[mode]?.sentence" class="none">{{ w.notThis }}</span>
      </span>
      <span class="name">{{ w.modes[mode] }}</span>
    </label>
    <p class="small quiet does">{{ w.does[trace.mode] }}</p>
  </fieldset>
</template>

<style scoped>
.modes {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 8px;
  margin: 0;
  padding: 0;
  border: 0;
}
legend {
  padding: 0 0 8px;
  font-weight: 650;
}
.mode {
  position: relative;
  display: grid;
  grid-template-rows: 60px auto;
  border: 1px solid var(--edge);
  border-radius: 9px;
  overflow: hidden;
  background: var(--raised);
  cursor: pointer;
}
.mode:has(:checked) {
  border-color: var(--ink);
  box-shadow: inset 0 0 0 2px var(--ink);
  font-weight: 650;
}
.mode:focus-within {
  outline: 2px solid var(--pick);
  outline-offset: 2px;
}
/* Paper in either theme: what is traced is cut from paper's colours. */
.picture {
  position: relative;
  display: grid;
  place-items: center;
  margin: 3px 3px 0;
  padding: 4px;
  border-radius: 6px 6px 0 0;
  background: var(--paper);
}
.picture svg {
  width: 100%;
  height: 50px;
}
.none {
  position: absolute;
  padding: 0 4px;
  color: var(--print);
  font-size: 12px;
  text-align: center;
}
.name {
  display: grid;
  place-items: center;
  min-height: 34px;
  padding: 2px 4px;
  font-size: 12.5px;
  line-height: 1.2;
  text-align: center;
}
.does {
  grid-column: 1 / -1;
  min-height: 2.8em;
  margin: 0;
}
</style>
