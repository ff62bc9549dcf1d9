<script setup lang="ts">
defineProps<{ label: string; value: boolean; disabled?: boolean }>()
const emit = defineEmits<{ take: [value: boolean] }>()
</script>

<template>
  <label class="tick">
    <input type="checkbox" :checked="value" :disabled="disabled" @change="emit('take', ($event.target as HTMLInputElement).checked)" />
    {{ label }}
  </label>
</template>

<style scoped>
.tick {
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 28px;
  cursor: pointer;
}
input {
  flex: none;
  width: 18px;
  height: 18px;
  accent-color: var(--ink);
}
</style>
