<script setup lang="ts">
import { mdiCompare } from '@mdi/js'
import { computed, ref } from 'vue'

import { useBench, type Look, type View } from '@/stores/bench'
import { useJob } from '@/stores/job'
import { words } from '@/words'

import JobChoice from './JobChoice.vue'

/** How the work is shown: one look, or two views under the divider, each with its look and its state. */
const bench = useBench()
const jobs = useJob()
const LOOKS: { id: Look; key: string }[] = [
  { id: 'art', key: '1' },
  { id: 'lines', key: '2' },
  { id: 'weeded', key: '3' },
  { id: 'spread', key: '4' },
]
/** The document before the last change, and after each step, the newest first. */
const states = computed(() => {
  const steps = jobs.head?.steps ?? []
  const after = steps.flatMap((step) => (step.document ? [{ document: step.document, name: words.looks.after(step.title) }] : []))
  const parent = jobs.head?.parent_document
  return [...(parent ? [{ document: parent, name: words.looks.parent }] : []), ...after.reverse()]
})
const also = computed(() => {
  const known = new Set(states.value.map((state) => state.document))
  return bench.views
    .filter((view) => view.document && !known.has(view.document))
    .map(({ document, name, job }) => ({ document, name, job }))
})

/** The view that another job is chosen for. */
const choosing = ref<View | null>(null)
function choose(view: View, document: string) {
  if (document === 'other') return void (choosing.value = view)
  const state = [...states.value, ...also.value].find((one) => one.document === document)
  Object.assign(view, { job: '', ...(state ?? { document: '', name: '' }) })
}
</script>

<template>
  <div class="looks">
    <div v-for="(view, number) in bench.views" :key="number" class="view" :class="{ second: number }">
      <div class="group" role="group" :aria-label="number ? words.looks.second : words.looks.group">
        <button
          v-for="look in LOOKS"
          :key="look.id"
          :class="{ on: view.look === look.id }"
          :aria-pressed="view.look === look.id"
          :title="words.looks[look.id].hint"
          @click="view.look = look.id"
        >
          {{ words.looks[look.id].name }} <kbd v-if="bench.views.length === 1">{{ look.key }}</kbd>
        </button>
        <button v-if="!number && bench.views.length === 1" :title="words.looks.compareHint" @click="bench.compare({})">
          <v-icon :icon="mdiCompare" size="16" /> {{ words.looks.compare }} <kbd>c</kbd>
        </button>
      </div>
      <select
        v-if="bench.views.length > 1"
        :value="view.document"
        :aria-label="words.looks.whichState"
        @change="choose(view, ($event.target as HTMLSelectElement).value)"
      >
        <option value="">{{ words.looks.now }}</option>
        <option value="other">{{ words.looks.otherJob }}</option>
        <option v-for="state in [...states, ...also]" :key="state.document" :value="state.document">{{ state.name }}</option>
      </select>
      <button v-if="number" class="away" @click="bench.compare(null)">{{ words.looks.one }} <kbd>c</kbd></button>
    </div>
    <JobChoice :open="!!choosing" @close="choosing = null" @choose="(state) => choosing && Object.assign(choosing, state)" />
  </div>
</template>

<style scoped>
.looks {
  position: absolute;
  inset: 14px 16px auto;
  display: flex;
  justify-content: space-between;
  gap: 12px;
  pointer-events: none;
}
.view {
  display: grid;
  align-content: start;
  gap: 6px;
  justify-items: start;
  pointer-events: auto;
}
.second {
  justify-items: end;
}
.group {
  display: flex;
  border: 1px solid var(--rule);
  border-radius: 10px;
  overflow: hidden;
  background: var(--panel);
}
.group button,
.away {
  display: flex;
  align-items: center;
  gap: 6px;
  height: 32px;
  padding: 0 11px;
  border: 0;
  background: none;
  color: var(--ink-2);
  font-weight: 600;
  cursor: pointer;
}
.group button + button {
  border-left: 1px solid var(--rule);
}
.group button.on {
  background: var(--ink);
  color: var(--on-ink);
}
button:focus-visible {
  outline-offset: -3px;
}
.away,
select {
  height: 30px;
  border: 1px solid var(--rule);
  border-radius: 8px;
  background: var(--panel);
}
select {
  max-width: 260px;
  padding: 0 6px;
  cursor: pointer;
}
kbd {
  opacity: 0.75;
}
@media (max-width: 1200px) {
  .looks kbd {
    display: none;
  }
}
</style>
