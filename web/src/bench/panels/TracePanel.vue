<script setup lang="ts">
import { computed } from 'vue'
import { useRouter } from 'vue-router'

import { useUntraced } from '@/composables/untraced'
import { useJob } from '@/stores/job'
import { useTrace } from '@/stores/trace'
import { words } from '@/words'

import PanelFrame from '../PanelFrame.vue'
import TraceColours from './TraceColours.vue'
import TraceFoot from './TraceFoot.vue'
import TraceJudged from './TraceJudged.vue'
import TraceModes from './TraceModes.vue'
import TraceReady from './TraceReady.vue'
import TraceScale from './TraceScale.vue'
import TraceSliders from './TraceSliders.vue'
import TraceReport from './TraceReport.vue'
import TraceWithin from './TraceWithin.vue'

const w = words.trace
const jobs = useJob()
const trace = useTrace()
const router = useRouter()
const { untraced } = useUntraced()

const pictures = computed(() => jobs.head?.pictures ?? [])
const nameOf = (id: string, at: number) => {
  const { size_px } = pictures.value[at]
  return w.picture(at + 1, size_px[0], size_px[1], !untraced.value.some((one) => one.id === id))
}
const choose = (picture: string) => void router.replace({ query: { picture } })
const pixel = computed(() => 25.4 / (pictures.value.find((p) => p.id === trace.picture)?.px_per_inch ?? 96))
</script>

<template>
  <PanelFrame :title="words.stations.trace">
    <template #head>
      <p v-if="!pictures.length" class="quiet">{{ w.empty }}</p>
    </template>

    <div v-if="pictures.length" class="fields" :class="{ pale: !trace.proposal }" :aria-busy="trace.waiting">
      <label v-if="pictures.length > 1" class="which">
        {{ w.which }}
        <select :value="trace.picture" @change="choose(($event.target as HTMLSelectElement).value)">
          <option v-for="(p, i) in pictures" :key="p.id" :value="p.id">
            {{ nameOf(p.id, i) }}
          </option>
        </select>
      </label>
      <TraceJudged />
      <TraceModes />
      <TraceSliders :pixel-mm="pixel" />
      <TraceReport />
      <TraceColours />
      <TraceWithin />
      <div class="folds">
        <TraceReady />
        <TraceScale />
      </div>
    </div>

    <template #foot>
      <TraceFoot v-if="pictures.length" />
      <v-btn v-else variant="outlined" size="large" block :to="{ name: 'bench', params: { job: jobs.job!.id, station: 'intake' } }">
        {{ w.bring }}
      </v-btn>
    </template>
  </PanelFrame>
</template>

<style scoped>
.fields {
  display: grid;
  gap: 16px;
  padding: 14px 18px;
}
.pale {
  opacity: 0.6;
}
.which {
  display: grid;
  gap: 4px;
  font-weight: 650;
}
select {
  height: 36px;
  padding: 0 8px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--raised);
  color: var(--ink);
  font: inherit;
}
/* What is pressed to be used on the picture, and what takes things back. */
.fields :deep(.tool) {
  min-height: 32px;
  padding: 0 12px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--raised);
  cursor: pointer;
}
.fields :deep(.tool[aria-pressed='true']) {
  border-color: var(--ink);
  background: var(--ink);
  color: var(--on-ink);
}
.fields :deep(.away) {
  justify-self: start;
  padding: 2px 0;
  border: 0;
  background: none;
  color: var(--ink-2);
  text-decoration: underline;
  cursor: pointer;
}
</style>
