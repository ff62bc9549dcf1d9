<script setup lang="ts">
import { words } from '@/words'

/** A part of a panel that is folded away until it is wanted; set: something in it is not as it is anyway; unfolded:
 * it is open from the first. */
defineProps<{ name: string; set: boolean; unfolded?: boolean; note?: string }>()
const emit = defineEmits<{ reset: [] }>()
</script>

<template>
  <details class="fold" :open="set || unfolded">
    <summary>
      <b>{{ name }}</b> <span class="small quiet">{{ note }}</span>
    </summary>
    <div class="inner">
      <slot />
      <button v-if="set" class="again" @click="emit('reset')">{{ words.trace.asItWas }}</button>
    </div>
  </details>
</template>

<style scoped>
.fold {
  border-top: 1px solid var(--rule);
  margin: 0 -18px;
  padding: 0 18px;
}
summary {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 40px;
  cursor: pointer;
}
summary::after {
  content: '';
  margin-left: auto;
  width: 7px;
  height: 7px;
  border: solid var(--ink-2);
  border-width: 0 2px 2px 0;
  transform: rotate(45deg);
}
.fold[open] > summary::after {
  transform: rotate(225deg);
}
.inner {
  display: grid;
  gap: 10px;
  padding: 2px 0 14px;
}
.again {
  justify-self: start;
  padding: 0;
  border: 0;
  background: none;
  color: var(--ink-2);
  text-decoration: underline;
  cursor: pointer;
}
</style>
