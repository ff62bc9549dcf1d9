<script setup lang="ts">
import { useSetup } from '@/stores/setup'
import { words } from '@/words'

const w = words.setup
/** Over a screen, or alone in its place, while what computes is still being compiled. */
defineProps<{ alone: boolean }>()
const setup = useSetup()
</script>

<template>
  <div v-if="!setup.state.ready" class="setup" :class="{ alone }" role="status">
    <p v-if="setup.state.of">
      <b>{{ w.title }}</b> {{ w.parts(setup.state.done, setup.state.of) }} {{ w.note }}
    </p>
    <p v-else>
      <b>{{ w.halted }}</b>
    </p>
    <v-progress-linear v-if="setup.state.of" :model-value="setup.share" color="primary" height="4" rounded :aria-label="w.howFar" />
    <router-link v-if="alone" :to="{ name: 'jobs' }">{{ w.jobs }}</router-link>
  </div>
</template>

<style scoped>
.setup {
  position: fixed;
  z-index: 30;
  left: 50%;
  bottom: 16px;
  width: min(560px, calc(100vw - 32px));
  translate: -50% 0;
  display: grid;
  gap: 8px;
  padding: 12px 16px;
  border: 1px solid var(--rule);
  border-radius: 10px;
  background: var(--raised);
  color: var(--ink);
}
.alone {
  bottom: 50%;
}
</style>
