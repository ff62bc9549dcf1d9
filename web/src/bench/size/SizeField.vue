<script setup lang="ts">
import { ref, watch } from 'vue'

/** A figure that shows what it comes to while it is typed, and is kept with Enter. read: null where the text is none. */
const props = defineProps<{
  label: string
  value: number
  show: (value: number) => string
  read: (text: string) => number | null
  disabled?: boolean
  wrong: string
}>()
const emit = defineEmits<{ typed: [value: number]; enter: [] }>()
const text = ref('')
const typing = ref(false)
const bad = ref('')
const reset = () => {
  text.value = props.show(props.value)
  bad.value = ''
}
watch(
  () => props.value,
  () => typing.value || reset(),
  { immediate: true },
)

function type() {
  typing.value = true
  const value = props.read(text.value)
  if (value !== null && value > 0) emit('typed', value)
}
function enter() {
  const value = props.read(text.value)
  bad.value = value === null || value <= 0 ? props.wrong : ''
  if (!bad.value) emit('enter')
}
function leave() {
  typing.value = false
  const value = props.read(text.value)
  bad.value = value === null || value <= 0 ? props.wrong : ''
  if (!bad.value) reset()
}
</script>

<template>
  <label class="field">
    <span class="small quiet">{{ label }}</span>
    <input
      v-model="text"
      type="text"
      autocomplete="off"
      :disabled="disabled"
      :aria-invalid="!!bad"
      @focus="($event.target as HTMLInputElement).select()"
      @input="type"
      @keydown.enter.prevent="enter"
      @blur="leave"
    />
    <span v-if="bad" class="small bad" role="alert">{{ bad }}</span>
  </label>
</template>

<style scoped>
.field {
  display: grid;
  gap: 2px;
  min-width: 0;
}
input {
  width: 100%;
  height: 36px;
  padding: 0 8px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--raised);
  color: var(--ink);
  font: inherit;
  font-weight: 650;
  font-variant-numeric: tabular-nums;
}
input[aria-invalid='true'] {
  border-color: var(--flag);
}
.bad {
  color: var(--flag);
}
</style>
