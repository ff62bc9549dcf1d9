<script setup lang="ts">
import { computed } from 'vue'

import { parseLength } from '@/composables/lengths'
import { OPTIONS, useTrace, type TraceOptions } from '@/stores/trace'
import { words } from '@/words'

/** What the chosen way of tracing is told beside darkness, smoothness and the smallest bit. */
const w = words.trace
const trace = useTrace()
const asked = computed(() => OPTIONS[trace.mode])
const switches: { name: keyof TraceOptions; label: string }[] = [
  { name: 'with_darker', label: w.withDarker },
  { name: 'background', label: w.background },
  { name: 'holes', label: w.holes },
  { name: 'on_top', label: w.onTop },
]
const lengths: { name: 'distance_mm' | 'underlap_mm'; label: string }[] = [
  { name: 'distance_mm', label: w.distance },
  { name: 'underlap_mm', label: w.underlap },
]
const value = (event: Event) => (event.target as HTMLInputElement).value.trim()

function count(event: Event, low: number, high: number): number | null {
  const number = Math.round(Number(value(event)))
  return value(event) && number >= low && number <= high ? number : null
}
function takeShades(event: Event) {
  const number = count(event, 2, 12)
  if (number) trace.tell('shades', number)
  else (event.target as HTMLInputElement).value = String(trace.options.shades)
}
function takeLength(name: 'distance_mm' | 'underlap_mm', event: Event) {
  const text = value(event)
  const negative = name === 'distance_mm' && text.startsWith('-')
  const length = text === '0' ? 0 : parseLength(negative ? text.slice(1) : text)
  if (length !== null && length <= (name === 'distance_mm' ? 100 : 50)) trace.tell(name, negative ? -length : length)
  ;(event.target as HTMLInputElement).value = `${trace.options[name]} mm`
}
</script>

<template>
  <div v-if="asked.length" class="told">
    <label v-if="asked.includes('colours')" class="row">
      {{ w.colours }}
      <input
        type="text"
        inputmode="numeric"
        :value="trace.options.colours ?? ''"
        :placeholder="w.asMany"
        :disabled="!trace.proposal"
        @change="trace.tell('colours', count($event, 2, 24))"
      />
    </label>
    <label v-if="asked.includes('shades')" class="row">
      {{ w.shadesField }}
      <input
        type="text"
        inputmode="numeric"
        :value="trace.options.shades"
        :disabled="!trace.proposal"
        @change="takeShades"
      />
    </label>
    <template v-for="length in lengths" :key="length.name">
      <label v-if="asked.includes(length.name)" class="row">
        {{ length.label }}
        <input
          type="text"
          :value="`${trace.options[length.name]} mm`"
          :disabled="!trace.proposal"
          @change="takeLength(length.name, $event)"
        />
      </label>
    </template>
    <template v-for="one in switches" :key="one.name">
      <label v-if="asked.includes(one.name)" class="tick">
        <input
          type="checkbox"
          :checked="!!trace.options[one.name]"
          :disabled="!trace.proposal"
          @change="trace.tell(one.name, ($event.target as HTMLInputElement).checked)"
        />
        {{ one.label }}
      </label>
    </template>
  </div>
</template>

<style scoped>
.told {
  display: grid;
  gap: 10px;
}
.row {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
  font-weight: 650;
}
.row input {
  width: 9.5em;
  height: 34px;
  padding: 0 8px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--raised);
  color: var(--ink);
  font: inherit;
  text-align: right;
}
.row input::placeholder {
  color: var(--quiet);
  opacity: 1;
  font-size: 13px;
}
.tick {
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 28px;
  cursor: pointer;
}
.tick input {
  width: 18px;
  height: 18px;
  accent-color: var(--ink);
}
</style>
