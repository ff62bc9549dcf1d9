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
  <input v-model="text" autocomplete="off" @input="typing = true" @change="take" />
</template>
