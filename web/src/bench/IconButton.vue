<script setup lang="ts">
/** A button with an icon only: its name is read out, and shown on hover with its key. */
defineProps<{ icon: string; name: string; hint?: string; keys?: string; disabled?: boolean }>()
const emit = defineEmits<{ press: [] }>()
</script>

<template>
  <v-tooltip :disabled="disabled" role="none">
    <template #activator="{ props: tip }">
      <button v-bind="tip" class="icon" type="button" :aria-label="name" :disabled="disabled" @click="emit('press')">
        <v-icon :icon="icon" size="20" />
      </button>
    </template>
    {{ name }}<template v-if="hint">: {{ hint }}</template> <kbd v-if="keys">{{ keys }}</kbd>
  </v-tooltip>
</template>

<style scoped>
.icon {
  display: grid;
  place-items: center;
  width: 34px;
  height: 34px;
  padding: 0;
  border: 0;
  border-radius: 8px;
  background: none;
  color: var(--ink-2);
  cursor: pointer;
}
.icon:hover:enabled {
  background: var(--raised);
  color: var(--ink);
}
.icon:disabled {
  opacity: 0.38;
  cursor: default;
}
</style>
