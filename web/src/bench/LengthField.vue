<script setup lang="ts">
import { ref, watch } from 'vue'

import { mm, parseLength } from '@/composables/lengths'
import { words } from '@/words'

/** A length that is typed with its unit and taken with Enter; always: as it stands, too; zero: may be nothing. */
const props = defineProps<{ label: string; value: number; disabled?: boolean; always?: boolean; zero?: boolean }>()
const emit = defineEmits<{ take: [value: number] }>()
const text = ref('')
const wrong = ref('')
const reset = () => {
  text.value = `${mm(props.value)} mm`
  wrong.value = ''
}
watch(() => props.value, reset, { immediate: true })

function take() {
  const value = parseLength(text.value)
  if (value === null || value < 0 || (!value && !props.zero)) {
    wrong.value = words.slide.wrongLength
    return
  }
  wrong.value = ''
  if (props.always || Math.abs(value - props.value) > 0.005) emit('take', value)
  else reset()
}
</script>

<template>
  <v-text-field
    v-model="text"
    :label="label"
    :error-messages="wrong"
    :disabled="disabled"
    autocomplete="off"
    @focus="($event.target as HTMLInputElement).select()"
    @keydown.enter="take"
    @keydown.esc="reset"
  />
</template>
