<script setup lang="ts">
import { computed } from 'vue'

import { useTrace } from '@/stores/trace'
import type { Mode } from '@/stores/traceOptions'
import { words } from '@/words'

/** What the picture is, what follows for its lines, and which other ways are likely. */
const w = words.trace
const trace = useTrace()
const others = computed(() => (trace.proposal?.ways ?? []).filter((way) => way.mode !== trace.mode).slice(0, 2))
</script>

<template>
  <div class="judged" role="status">
    <p v-if="!trace.proposal" class="quiet">{{ trace.problem ? '' : w.looking }}</p>
    <template v-else>
      <p>
        {{ trace.proposal.sentence }} <template v-if="trace.options.even_light">{{ w.evened }}</template>
      </p>
      <p v-if="trace.proposal.warning" class="warn">{{ trace.proposal.warning }}</p>
      <p v-if="others.length" class="others">
        {{ w.otherWays }}
        <button v-for="way in others" :key="way.mode" @click="trace.chooseMode(way.mode as Mode, way.told)">{{ way.words }}</button>
      </p>
    </template>
  </div>
</template>

<style scoped>
.judged {
  display: grid;
  gap: 6px;
  min-height: 3.6em;
  font-size: 13px;
}
p {
  margin: 0;
}
.warn {
  padding: 6px 10px;
  border-radius: 8px;
  background: var(--flag-ground);
  color: var(--flag);
}
.others {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  color: var(--ink-2);
}
button {
  padding: 2px 0;
  border: 0;
  background: none;
  color: var(--ink);
  text-decoration: underline;
  cursor: pointer;
}
</style>
