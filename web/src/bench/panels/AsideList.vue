<script setup lang="ts">
import { ref } from 'vue'

import { useJob } from '@/stores/job'
import { words } from '@/words'

/** What was set aside, each with the reason, which may be typed at any time. */
const w = words.check
const jobs = useJob()
/** Stays as it is while faults are looked for anew, when the list is gone for a moment. */
const open = ref(false)
function keep(key: string, why: string) {
  const before = jobs.head!.settings.why_aside ?? {}
  if ((before[key] ?? '') !== why.trim()) void jobs.set(words.busy.aside, () => ({ why_aside: { ...before, [key]: why.trim() } }))
}
</script>

<template>
  <details v-if="jobs.aside.length" class="aside" :open="open" @toggle="open = ($event.target as HTMLDetailsElement).open">
    <summary>{{ w.aside(jobs.aside.length) }}</summary>
    <ul>
      <li v-for="f in jobs.aside" :key="f.key">
        <span class="title">{{ f.title }}</span>
        <v-btn size="small" variant="text" :disabled="!!jobs.busy" @click="jobs.setAside(f.key, false)">{{ w.takeBack }}</v-btn>
        <input
          type="text"
          maxlength="200"
          :value="f.why_aside"
          :placeholder="w.why"
          :aria-label="`${w.why}: ${f.title}`"
          @keydown.enter="($event.target as HTMLInputElement).blur()"
          @blur="keep(f.key, ($event.target as HTMLInputElement).value)"
        />
      </li>
    </ul>
  </details>
</template>

<style scoped>
.aside {
  padding: 12px 18px;
  color: var(--ink-2);
}
summary {
  cursor: pointer;
}
ul {
  list-style: none;
  margin: 0;
  padding: 8px 0 0;
}
li {
  display: grid;
  grid-template-columns: 1fr auto;
  align-items: center;
  gap: 2px 8px;
  padding-bottom: 8px;
}
.title {
  overflow-wrap: anywhere;
}
input {
  grid-column: 1 / -1;
  height: 30px;
  padding: 0 8px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--raised);
  color: var(--ink);
  font: inherit;
  font-size: 13px;
}
</style>
