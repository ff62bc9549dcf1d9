<script setup lang="ts">
import { ref, watch } from 'vue'

/** A value that is typed: what stands in it while somebody types is theirs, whatever comes in meanwhile. */
const props = defineProps<{ value: string }>()
const emit = defineEmits<{ take: [typed: string] }>()
const text = ref(props.value)
const typing = ref(false)
watch(
  () => props.value,
  (now) => {
    if (!typing.value) text.value = now
  },
)
function take() {
  typing.value = false
  emit('take', text.value)
  // A value that was not taken stands as it was.
  void Promise.resolve().then(() => (text.value = props.value))
}
</script>

<template>
  <input v-model="text" class="value" autocomplete="off" @input="typing = true" @change="take" />
</template>

<style scoped>
.value {
  width: 10ch;
  min-height: 28px;
  padding: 0 6px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--raised);
  color: var(--ink);
  font: inherit;
  font-weight: 700;
}
</style>
