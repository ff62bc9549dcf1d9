<script setup lang="ts">
import { useIntake } from '@/stores/intake'
import { words } from '@/words'

/** Files that could not be brought in, each with its reason; the others are there. */
const intake = useIntake()
</script>

<template>
  <div v-if="intake.refused.length" class="refused" role="alert">
    <ul>
      <li v-for="(each, i) in intake.refused" :key="i">{{ each.sentence }}</li>
    </ul>
    <v-btn size="small" variant="text" @click="intake.refused = []">{{ words.common.close }}</v-btn>
  </div>
</template>

<style scoped>
.refused {
  pointer-events: auto;
  display: flex;
  align-items: start;
  justify-content: space-between;
  gap: 16px;
  max-width: 720px;
  padding: 10px 16px;
  border: 1px solid var(--flag);
  border-radius: 10px;
  background: var(--flag-ground);
  color: var(--ink);
}
ul {
  max-height: 30vh;
  margin: 0;
  padding: 4px 0 0;
  overflow: auto;
  list-style: none;
  display: grid;
  gap: 4px;
  overflow-wrap: anywhere;
}
</style>
