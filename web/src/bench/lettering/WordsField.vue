<script setup lang="ts">
import { computed } from 'vue'

/** Words as they are typed: what they come to shows at every letter. Enter keeps the step, Shift+Enter begins a line. */
const props = defineProps<{ label: string; help: string; value: string; most: number }>()
const emit = defineEmits<{ set: [value: string] }>()
const rows = computed(() => Math.min(props.value.split('\n').length, 8))
</script>

<template>
  <textarea
    class="words"
    :rows="rows"
    :value="value"
    :aria-label="label"
    :title="help"
    :maxlength="most"
    spellcheck="false"
    autocomplete="off"
    dir="auto"
    @input="emit('set', ($event.target as HTMLTextAreaElement).value)"
  />
</template>

<style scoped>
.words {
  display: block;
  width: 100%;
  margin: 4px 0;
  padding: 6px 10px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--raised);
  color: var(--ink);
  font: inherit;
  font-size: 19px;
  font-weight: 700;
  line-height: 1.4;
  resize: vertical;
}
</style>
