<script setup lang="ts">
import { mdiDotsVertical } from '@mdi/js'
import { useRouter } from 'vue-router'

import type { StepDone } from '@/api/types'
import { useJob } from '@/stores/job'

const props = defineProps<{ step: StepDone; job: string }>()
const jobs = useJob()
const router = useRouter()
const change = () => void router.push({ name: 'bench', params: { job: props.job, station: 'trace' }, query: { step: props.step.key } })
const flip = () => jobs.switchStep(props.step.key, !props.step.enabled)
</script>

<template>
  <li class="knot" :class="{ off: !step.enabled, stopped: step.stopped }">
    <span class="dot" aria-hidden="true" />
    <div class="words">
      <span class="title">{{ step.title }}</span>
      <template v-if="step.stopped">
        <span class="why small">{{ step.stopped }}</span>
        <span class="links small">
          <button :disabled="!!jobs.busy" @click="jobs.repairStep(step.key)">Repair</button>
          <button :disabled="!!jobs.busy" @click="jobs.dropStep(step.key)">Take out</button>
        </span>
      </template>
      <span v-else-if="!step.enabled" class="small">switched off</span>
      <span v-else-if="step.note" class="small note">{{ step.note }}</span>
    </div>
    <v-menu location="end">
      <template #activator="{ props: menu }">
        <button v-bind="menu" class="more" :aria-label="`Change the step: ${step.title}`">
          <v-icon :icon="mdiDotsVertical" size="16" />
        </button>
      </template>
      <ul class="menu">
        <li v-if="step.operation === 'trace'"><button @click="change">Change</button></li>
        <li><button @click="flip">{{ step.enabled ? 'Switch off' : 'Switch on' }}</button></li>
        <li><button @click="jobs.dropStep(step.key)">Take out</button></li>
      </ul>
    </v-menu>
  </li>
</template>

<style scoped>
.knot {
  position: relative;
  display: grid;
  grid-template-columns: 1fr auto;
  padding: 2px 0 2px 44px;
  color: var(--ink-2);
}
.dot {
  position: absolute;
  left: 16px;
  top: 8px;
  width: 9px;
  height: 9px;
  box-sizing: border-box;
  border-radius: 50%;
  border: 2.5px solid var(--ink);
  background: var(--panel);
}
.words {
  display: grid;
  overflow-wrap: anywhere;
  min-width: 0;
}
.title {
  line-height: 1.3;
}
.note {
  color: var(--ink-3);
}
.off .title {
  text-decoration: line-through;
}
.stopped .dot {
  border-color: var(--flag);
  background: var(--flag);
}
.why {
  color: var(--flag);
}
.more {
  align-self: start;
  width: 24px;
  height: 24px;
  border: 0;
  border-radius: 6px;
  background: none;
  opacity: 0.55;
  cursor: pointer;
}
.more:hover,
.more:focus-visible {
  opacity: 1;
  background: var(--raised);
}
.menu {
  list-style: none;
  margin: 0;
  padding: 4px;
  background: var(--raised);
  color: var(--ink);
  border: 1px solid var(--rule);
  border-radius: 8px;
}
.menu button {
  width: 100%;
  padding: 6px 16px;
  border: 0;
  border-radius: 6px;
  background: none;
  text-align: left;
  cursor: pointer;
}
.menu button:hover {
  background: var(--ground);
}
</style>
