<script setup lang="ts">
import { ref, watch } from 'vue'

/** A label and what is typed for it, on one line; taken with Enter or on leaving. read: the value of a text, undefined
 *  where it is none; an empty text is null, and wrong where something is needed. */
const props = defineProps<{
  label: string
  value: number | string | null
  show: (value: never) => string
  read: (text: string) => number | string | undefined
  wrong: string
  empty?: string
  needed?: boolean
  disabled?: boolean
}>()
const emit = defineEmits<{ take: [value: never] }>()
const text = ref('')
const bad = ref('')
const shown = () => (props.value === null ? '' : props.show(props.value as never))
watch(
  () => props.value,
  () => {
    text.value = shown()
    bad.value = ''
  },
  { immediate: true },
)
function take() {
  const typed = text.value.trim()
  const value = typed ? props.read(typed) : props.needed ? undefined : null
  bad.value = value === undefined ? props.wrong : ''
  if (value === undefined) return
  if (value !== props.value) emit('take', value as never)
  else text.value = shown()
}
</script>

<template>
  <div>
    <label class="row">
      {{ label }}
      <input
        v-model="text"
        type="text"
        autocomplete="off"
        :placeholder="empty"
        :disabled="disabled"
        :aria-invalid="!!bad"
        @focus="($event.target as HTMLInputElement).select()"
        @keydown.enter="take"
        @keydown.esc="text = shown()"
        @blur="text !== shown() && take()"
      />
    </label>
    <p v-if="bad" class="small bad" role="alert">{{ bad }}</p>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
}
input {
  width: 9em;
  height: 32px;
  padding: 0 8px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--raised);
  color: var(--ink);
  font: inherit;
  text-align: right;
}
input[aria-invalid='true'] {
  border-color: var(--flag);
}
input::placeholder {
  color: var(--ink-2);
  opacity: 1;
  font-size: 13px;
}
.bad {
  margin: 2px 0 0;
  color: var(--flag);
}
</style>
