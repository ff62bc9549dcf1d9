<script setup lang="ts">
import { computed, ref, useId, watch } from 'vue'

import { words } from '@/words'

/** A number that is dragged or typed. While it is dragged it is told with dragging true, and once more at the end. */
const props = defineProps<{
  label: string
  /** Not a number: it is not known; the field is empty and the slider stands in the middle. */
  value: number
  /** The ends of the track; between them it runs by the square, so that small values have room. */
  low: number
  high: number
  even?: boolean
  show: (value: number) => string
  read: (text: string) => number | null
  hint?: string
  proposed?: number
  disabled?: boolean
}>()
const emit = defineEmits<{ set: [value: number, dragging: boolean]; reset: [] }>()

const STEPS = 1000
const id = useId()
const text = ref('')
const wrong = ref('')
const shown = computed(() => (Number.isNaN(props.value) ? '' : props.show(props.value)))
watch(
  () => props.value,
  () => {
    text.value = shown.value
    wrong.value = ''
  },
  { immediate: true },
)

const share = (value: number) => {
  const t = Math.min(Math.max((value - props.low) / (props.high - props.low), 0), 1)
  return props.even ? t : Math.sqrt(t)
}
const place = computed(() => Math.round((Number.isNaN(props.value) ? 0.5 : share(props.value)) * STEPS))
const valueAt = (at: number) => {
  const t = at / STEPS
  return props.low + (props.even ? t : t * t) * (props.high - props.low)
}
const off = computed(() => props.proposed !== undefined && props.show(props.proposed) !== shown.value)

function slide(event: Event, dragging: boolean) {
  emit('set', valueAt(Number((event.target as HTMLInputElement).value)), dragging)
}
function take() {
  const value = props.read(text.value)
  if (value === null || value < 0) {
    wrong.value = words.slide.wrong(props.show(props.proposed ?? props.low))
    return
  }
  emit('set', value, false)
  text.value = props.show(value)
}
</script>

<template>
  <div class="field">
    <label :for="id">{{ label }}</label>
    <input
      v-model="text"
      class="typed"
      type="text"
      autocomplete="off"
      :aria-label="words.slide.typed(label)"
      :aria-invalid="!!wrong"
      :disabled="disabled"
      @focus="($event.target as HTMLInputElement).select()"
      @keydown.enter="take"
      @blur="text !== shown && take()"
      @keydown.esc="text = shown"
    />
    <div class="track" :style="{ '--at': `${(place / STEPS) * 100}%` }">
      <slot name="behind" />
      <span v-if="proposed !== undefined" class="mark" :style="{ left: `${share(proposed) * 100}%` }" aria-hidden="true" />
      <input
        :id="id"
        type="range"
        min="0"
        :max="STEPS"
        :value="place"
        :aria-valuetext="shown"
        :disabled="disabled"
        @input="slide($event, true)"
        @change="slide($event, false)"
      />
    </div>
    <p v-if="wrong" class="small wrong" role="alert">{{ wrong }}</p>
    <p v-else class="small hint">
      <span>{{ hint }}</span>
      <button v-if="off" class="back" :disabled="disabled" @click="emit('reset')">
        {{ words.slide.back(show(proposed!)) }}
      </button>
    </p>
  </div>
</template>

<style scoped>
.field {
  display: grid;
  grid-template-columns: 1fr auto;
  align-items: center;
  gap: 2px 12px;
}
label {
  font-weight: 650;
}
.typed {
  /* Before what the track shows behind it. */
  z-index: 1;
  width: 92px;
  height: 28px;
  padding: 0 8px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--raised);
  color: var(--ink);
  font: inherit;
  font-weight: 650;
  text-align: right;
}
.typed[aria-invalid='true'] {
  border-color: var(--flag);
}
.track {
  position: relative;
  grid-column: 1 / -1;
  height: 28px;
  margin: 0 8px;
}
.mark {
  position: absolute;
  top: 19px;
  width: 2px;
  height: 7px;
  margin-left: -1px;
  background: var(--ink-3);
}
input[type='range'] {
  position: absolute;
  left: -8px;
  width: calc(100% + 16px);
  height: 28px;
  margin: 0;
  appearance: none;
  background: none;
  cursor: pointer;
}
input[type='range']::-webkit-slider-runnable-track {
  height: 3px;
  border-radius: 2px;
  background: linear-gradient(to right, var(--ink) var(--at), var(--rule) var(--at));
}
input[type='range']::-moz-range-track {
  height: 3px;
  border-radius: 2px;
  background: linear-gradient(to right, var(--ink) var(--at), var(--rule) var(--at));
}
input[type='range']::-webkit-slider-thumb {
  appearance: none;
  width: 16px;
  height: 16px;
  margin-top: -6.5px;
  border: 3px solid var(--ink);
  border-radius: 50%;
  background: var(--raised);
}
input[type='range']::-moz-range-thumb {
  width: 10px;
  height: 10px;
  border: 3px solid var(--ink);
  border-radius: 50%;
  background: var(--raised);
}
.hint,
.wrong {
  grid-column: 1 / -1;
  display: flex;
  justify-content: space-between;
  gap: 8px;
  color: var(--ink-3);
}
.wrong {
  color: var(--flag);
}
.back {
  border: 0;
  padding: 0 2px;
  background: none;
  color: var(--ink);
  font: inherit;
  text-decoration: underline;
  cursor: pointer;
  white-space: nowrap;
}
</style>
