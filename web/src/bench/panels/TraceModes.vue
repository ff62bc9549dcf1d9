<script setup lang="ts">
import { MODES, useTrace } from '@/stores/trace'
import { words } from '@/words'

const w = words.trace
const trace = useTrace()
</script>

<template>
  <fieldset class="modes" :disabled="!trace.proposal">
    <legend>{{ w.how }}</legend>
    <label v-for="mode in MODES" :key="mode" class="mode">
      <input
        type="radio"
        name="trace-mode"
        :value="mode"
        :checked="trace.mode === mode"
        @change="trace.chooseMode(mode)"
      />
      {{ w.modes[mode] }}
    </label>
    <p class="small quiet does">{{ w.does[trace.mode] }}</p>
  </fieldset>
</template>

<style scoped>
.modes {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px;
  margin: 0;
  padding: 0;
  border: 0;
}
legend {
  padding: 0 0 8px;
  font-weight: 650;
}
.mode {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 36px;
  padding: 4px 10px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--raised);
  cursor: pointer;
}
.mode:has(:checked) {
  border-color: var(--ink);
  box-shadow: inset 0 0 0 1px var(--ink);
  font-weight: 650;
}
.mode:focus-within {
  outline: 2px solid var(--ink);
  outline-offset: 2px;
}
.mode input {
  accent-color: var(--ink);
}
.does {
  grid-column: 1 / -1;
  min-height: 2.8em;
  margin: 2px 0 0;
}
</style>
