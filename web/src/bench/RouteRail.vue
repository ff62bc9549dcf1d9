<script setup lang="ts">
import { computed, shallowReactive } from 'vue'

import type { Station, StepDone } from '@/api/types'
import { numberOf } from '@/composables/numberOf'
import { useBench } from '@/stores/bench'
import { useDrawing } from '@/stores/drawing'
import { useJob } from '@/stores/job'
import { useWorking } from '@/stores/working'
import { words } from '@/words'

import { STATIONS } from './stations'
import LogStep from './LogStep.vue'

const props = defineProps<{ station: Station; job: string }>()
const jobs = useJob()
const bench = useBench()
const drawing = useDrawing()
const working = useWorking()

/** What waits at each station, in vermilion. */
const waiting = computed<Record<Station, number>>(() => {
  const grave = jobs.open.filter((f) => f.level !== 'note')
  const said = numberOf(grave.filter((f) => f.step))
  return {
    intake: said + jobs.doubted.length,
    trace: 0,
    check: numberOf(grave) - said,
    build: 0,
    size: 0,
    sheet: 0,
    proof: working.shown?.program.proof?.holds === false ? 1 : 0,
    handover: bench.proof?.holds === false ? 1 : 0,
  }
})

/** Of many steps at one station only the last are shown, until somebody wants to see them all; one that needs a hand is
 * never folded away. */
const MOST_SHOWN = 8
const KEPT = 6
const unfolded = shallowReactive(new Set<Station>())
function foldedOf(station: Station, steps: StepDone[]): number {
  if (steps.length <= MOST_SHOWN || unfolded.has(station)) return 0
  const first = steps.findIndex((step) => step.stopped || step.key === bench.reopened)
  return Math.min(steps.length - KEPT, first < 0 ? steps.length : first)
}

const route = computed(() => {
  const steps = jobs.head?.steps ?? []
  // A design that came as lines has nothing to trace.
  const traces = props.station === 'trace' || drawing.drawing?.pictures.length
  const stops = STATIONS.filter((s) => s.id !== 'trace' || traces).map((s) => ({
    ...s,
    steps: steps.filter((step) => step.station === s.id),
  }))
  const last = stops.findLastIndex((s) => s.steps.length || s.id === props.station)
  return stops.map((s, i) => ({ ...s, gone: i < last, folded: foldedOf(s.id, s.steps) }))
})
</script>

<template>
  <nav class="route" :aria-label="words.route.title">
    <ol>
      <li v-for="stop in route" :key="stop.id" class="stop" :class="{ gone: stop.gone }">
        <router-link
          class="station"
          :class="{ here: stop.id === station }"
          :to="{ name: 'bench', params: { job, station: stop.id } }"
          :aria-current="stop.id === station ? 'step' : undefined"
        >
          <span class="ring" :class="{ filled: stop.steps.length, here: stop.id === station }" aria-hidden="true" />
          <span class="name">{{ stop.name }}</span>
          <span v-if="waiting[stop.id]" class="count" :aria-label="words.route.waiting(waiting[stop.id])">
            {{ waiting[stop.id] }}
          </span>
        </router-link>
        <ol v-if="stop.steps.length" class="steps">
          <li v-if="stop.folded" class="folded">
            <button class="small" @click="unfolded.add(stop.id)">{{ words.step.folded(stop.folded) }}</button>
          </li>
          <LogStep v-for="step in stop.steps.slice(stop.folded)" :key="step.key" :step="step" :job="job" />
        </ol>
      </li>
    </ol>
  </nav>
</template>

<style scoped>
.route {
  overflow: auto;
  padding: 14px 10px 24px;
  background: var(--panel);
  border-right: 1px solid var(--rule);
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
.stop {
  position: relative;
  padding-bottom: 6px;
}
/* The line: solid as far as the work has gone, dashed beyond. */
.stop:not(:last-child)::before {
  content: '';
  position: absolute;
  left: 19px;
  top: 20px;
  bottom: -14px;
  border-left: 3px dashed var(--edge);
  opacity: 0.6;
}
.stop.gone:not(:last-child)::before {
  border-left: 3px solid var(--ink);
  opacity: 1;
}
.station {
  position: relative;
  display: flex;
  align-items: center;
  gap: 12px;
  min-height: 34px;
  padding: 0 8px 0 9px;
  border: 1px solid transparent;
  border-radius: 10px;
  color: var(--ink-2);
  font-weight: 600;
  text-decoration: none;
}
.station:hover {
  color: var(--ink);
}
.station.here {
  background: var(--raised);
  border-color: var(--rule);
  color: var(--ink);
  font-family: var(--heading);
  font-size: 17px;
}
.name {
  flex: 1;
}
.ring {
  flex: none;
  width: 22px;
  height: 22px;
  box-sizing: border-box;
  border-radius: 50%;
  border: 3px solid var(--edge);
  background: var(--panel);
}
.ring.filled {
  border: 7px solid var(--ink);
  background: var(--panel);
}
.ring.here {
  border: 3px solid var(--ink);
  background: radial-gradient(circle, var(--ink) 0 4px, var(--raised) 4.6px);
}
.count {
  min-width: 22px;
  padding: 0 6px;
  border-radius: 9px;
  background: var(--flag-ground);
  color: var(--flag);
  font: 700 12.5px/18px var(--v-font-body);
  text-align: center;
}
.folded {
  padding-left: 44px;
}
.folded button {
  padding: 0;
  border: 0;
  background: none;
  color: var(--ink-2);
  text-decoration: underline;
  cursor: pointer;
}
.steps {
  display: grid;
  gap: 2px;
  padding: 4px 0 6px;
}
</style>
